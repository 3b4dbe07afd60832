import { plannedDemoShow } from '@green-mantle/demo'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { canvasEncodesOf, plannedShareOf } from '../encoding'
import { plannedEncoderShare } from '../media'
import type { Effort, Show } from '../show'
import { effortsThatKeepUp, fewestLosses, type KeepingUp, type LighterEncode } from './keepingUp'
import type { TrialProcess } from './trial'

const anyClasses = fc.array(
  fc.array(
    fc.record({
      // Thousandths, which are what is counted in.
      share: fc.nat(400).map((thousandths) => thousandths / 1000),
      loss: fc.nat(50),
    }),
    { minLength: 1, maxLength: 4 },
  ),
  { maxLength: 5 },
)

/** Every way to take one option of each class. */
const everyChoice = (classes: readonly (readonly unknown[])[]): number[][] =>
  classes.reduce<number[][]>(
    (choices, options) =>
      choices.flatMap((choice) => options.map((_, option) => [...choice, option])),
    [[]],
  )

describe('the fewest losses within a capacity', () => {
  it('are those of trying every choice', () => {
    fc.assert(
      fc.property(anyClasses, fc.integer({ min: -50, max: 1200 }), (classes, thousandths) => {
        const sumOf = (choice: readonly number[], what: 'share' | 'loss'): number =>
          choice.reduce((sum, option, index) => sum + classes[index]![option]![what], 0)
        const fitting = everyChoice(classes).filter(
          (choice) => Math.round(sumOf(choice, 'share') * 1000) <= thousandths,
        )
        const found = fewestLosses(classes, thousandths / 1000)
        if (fitting.length === 0) {
          expect(found).toBeNull()
          return
        }
        expect(Math.round(sumOf(found!, 'share') * 1000)).toBeLessThanOrEqual(thousandths)
        expect(sumOf(found!, 'loss')).toBe(
          Math.min(...fitting.map((choice) => sumOf(choice, 'loss'))),
        )
      }),
    )
  })
})

const processor = plannedDemoShow.computer.devices.find(({ kind }) => kind === 'processor')!
/** The demo's show, all of it encoded by the processor at one effort. */
function show(effort: Effort): Show {
  const made = <Owner extends Show['destinations'][number]['renditions'][number]>(
    rendition: Owner,
  ): Owner => ({
    ...rendition,
    ...{ effort, codec: 'h264' },
    pins: [],
    encoder: { ...rendition.encoder, deviceId: processor.id },
  })
  return {
    ...plannedDemoShow,
    destinations: plannedDemoShow.destinations.map((destination) => ({
      ...destination,
      renditions: destination.renditions.map(made),
    })),
    recordings: plannedDemoShow.recordings.map((recording) => ({
      ...recording,
      rendition: made(recording.rendition),
    })),
  }
}
/** What the processes of a show came to where encodes take so many times what is planned. */
const processesOf = (
  tried: Show,
  { times, pictureShare = 0.05 }: { times: number; pictureShare?: number },
): TrialProcess[] =>
  canvasEncodesOf(tried).map((canvas) => {
    const plannedShare = plannedShareOf(tried, canvas)!
    return {
      ...{ canvas: canvas.canvas, encodes: [], speed: 0.5, droppedFrames: 0, problem: '' },
      ...{ plannedShare, pictureShare },
      // It did half of all that in time.
      processorShare: (plannedShare * times + pictureShare) / 2,
    }
  })
const lighterOf = (found: KeepingUp | null): LighterEncode[] =>
  found?.name === 'less effort' ? found.lighter : []
const withEfforts = (tried: Show, found: KeepingUp): Show => {
  const effortOf = (id: string, own: Effort): Effort =>
    lighterOf(found).find(({ renditionIds }) => renditionIds.includes(id))?.to ?? own
  return {
    ...tried,
    destinations: tried.destinations.map((destination) => ({
      ...destination,
      renditions: destination.renditions.map((rendition) => ({
        ...rendition,
        effort: effortOf(rendition.id, rendition.effort),
      })),
    })),
    recordings: tried.recordings.map((recording) => ({
      ...recording,
      rendition: {
        ...recording.rendition,
        effort: effortOf(recording.rendition.id, recording.rendition.effort),
      },
    })),
  }
}
const plannedOf = (tried: Show): number =>
  canvasEncodesOf(tried).reduce((sum, canvas) => sum + plannedShareOf(tried, canvas)!, 0)

describe('efforts with which a computer keeps up', () => {
  const tried = show('fine')
  // So that all of it at its own effort takes one and a half times what there is.
  const times = 1.5 / plannedOf(tried)

  it('are reckoned from what was measured, and leave a fifth of the processor', () => {
    const found = effortsThatKeepUp(tried, processesOf(tried, { times }))!
    expect(lighterOf(found).length).toBeGreaterThan(0)
    expect(found.processorShare).toBeLessThanOrEqual(plannedEncoderShare)
    const then = withEfforts(tried, found)
    expect(plannedOf(then) * times + 0.1).toBeCloseTo(found.processorShare, 9)
    for (const { from, to, lostPoints, names } of lighterOf(found)) {
      expect(from).toBe('fine')
      expect(to).not.toBe('fine')
      expect(lostPoints).toBeGreaterThanOrEqual(0)
      expect(names.length).toBeGreaterThan(0)
    }
    // As planned it now keeps up, so that nothing more is to change.
    expect(effortsThatKeepUp(then, processesOf(then, { times }))).toBeNull()
  })

  it('weigh a relay by those that it feeds', () => {
    const through = tried.destinations.find(({ on, canvas }) => on && canvas === 'landscape')!
    const relayed: Show = {
      ...tried,
      recordings: [],
      destinations: [
        { ...through, id: 'relay', connection: 'relay' },
        ...tried.destinations
          .filter(({ on, canvas }) => on && canvas === 'landscape')
          .map((each) => ({
            ...each,
            relayId: 'relay',
            plan: { ...each.plan, priority: 5 },
          })),
        ...tried.destinations.filter(({ on, canvas }) => on && canvas === 'vertical'),
      ],
    }
    const found = effortsThatKeepUp(
      relayed,
      processesOf(relayed, { times: 1.2 / plannedOf(relayed) }),
    )
    // What two see at the highest priority is spared, so that the other gives way first.
    const lost = (name: string): number =>
      lighterOf(found).find(({ names }) => names.includes(name))?.lostPoints ?? 0
    const vertical = relayed.destinations.find(({ canvas }) => canvas === 'vertical')!
    expect(lost(vertical.name)).toBeGreaterThan(lost(through.name))
  })

  it('leave those alone that are pinned', () => {
    const lighter = lighterOf(effortsThatKeepUp(tried, processesOf(tried, { times })))
    const pinnedId = lighter[0]!.renditionIds[0]!
    const pinned: Show = {
      ...tried,
      destinations: tried.destinations.map((destination) => ({
        ...destination,
        renditions: destination.renditions.map((rendition) =>
          rendition.id === pinnedId ? { ...rendition, pins: ['effort'] } : rendition,
        ),
      })),
    }
    const found = effortsThatKeepUp(pinned, processesOf(pinned, { times }))
    expect(lighterOf(found).flatMap(({ renditionIds }) => renditionIds)).not.toContain(pinnedId)
  })

  it('are none where it keeps up or where something is not known, and not enough where the least is too much', () => {
    const within = 0.5 / plannedOf(tried)
    expect(effortsThatKeepUp(tried, processesOf(tried, { times: within }))).toBeNull()
    for (const tooMuch of [
      { times: 100 * times, pictureShare: 0.05 },
      { times, pictureShare: 0.6 },
    ]) {
      const found = effortsThatKeepUp(tried, processesOf(tried, tooMuch))!
      expect(found.name).toBe('too much')
      expect(found.processorShare).toBeGreaterThan(plannedEncoderShare)
      const least = show('fastest')
      const pictures = 2 * tooMuch.pictureShare
      expect(found.processorShare).toBeCloseTo(plannedOf(least) * tooMuch.times + pictures, 9)
    }
    const processes = processesOf(tried, { times })
    for (const unknown of [{ pictureShare: null }, { processorShare: null }, { speed: null }])
      expect(
        effortsThatKeepUp(
          tried,
          processes.map((each) => ({ ...each, ...unknown })),
        ),
      ).toBeNull()
    expect(effortsThatKeepUp(tried, [])).toBeNull()
  })
})
