import { demoShow } from '@green-mantle/demo'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { type NightOrder, nightOrder } from './nightOrder'
import { afterEvents, nightState, noNight } from './nightState'
import type { Happening, NightEvent } from './nightEvents'
import { frozenPicture, hardWaits, isDone, outOfOrder, stageOf, stagesOf } from './stages'
import { sendStages } from './task'
import { runsOf } from '../../tests/tier'

const begin = Date.parse('2026-12-12T20:00:00Z')
/** A log of happenings, ten seconds apart. */
const logOf = (happenings: readonly Happening[], who = 'Ines'): NightEvent[] =>
  happenings.map((happening, index) => ({
    ...{ id: `e${index}`, who, happening, sequence: index + 1 },
    at: new Date(begin + index * 10_000).toISOString(),
  }))
const ticked = (taskId: string, knowingly = false): Happening => ({
  ...{ kind: 'ticked', taskId, knowingly },
  title: taskId,
})

describe('the state of a night', () => {
  it('keeps who ticked what and when, the first of two who did, and takes ticks back', () => {
    const twice = nightState([
      ...logOf([ticked('line')]),
      { ...logOf([ticked('line')], 'Oke')[0]!, id: 'other', sequence: 2 },
    ])
    expect(twice.ticks.get('line')).toMatchObject({ who: 'Ines', at: '2026-12-12T20:00:00.000Z' })
    const back = nightState(
      logOf([ticked('line'), { kind: 'unticked', taskId: 'line', title: '' }]),
    )
    expect(back.ticks.size).toBe(0)
  })

  it('marks moments, and stretches backwards', () => {
    const mark: Happening = {
      ...{ kind: 'marked', markId: 'm', name: 'Bud opens', sceneId: 'petals', backSeconds: 30 },
    }
    const [made] = nightState(logOf([mark, { kind: 'mark named', markId: 'm', name: 'Bud' }])).marks
    expect(made).toMatchObject({
      ...{ name: 'Bud', from: '2026-12-12T19:59:30.000Z', until: '2026-12-12T20:00:00.000Z' },
    })
    expect(nightState(logOf([mark, { kind: 'mark removed', markId: 'm' }])).marks).toEqual([])
  })

  it('goes on with a night that was said to be over, and begins anew', () => {
    const on = nightState(logOf([{ kind: 'begun' }, { kind: 'over' }, { kind: 'begun' }]))
    expect(on).toMatchObject({ begunAt: '2026-12-12T20:00:00.000Z', overAt: null })
    const anew = nightState(logOf([{ kind: 'begun' }, ticked('line'), { kind: 'new night' }]))
    expect(anew).toMatchObject({ begunAt: null, overAt: null })
    expect(anew.ticks.size).toBe(0)
    expect(anew.events).toHaveLength(1)
  })

  it('has what a server that was killed had under way, until it was gone on with and ended', () => {
    const interrupted: Happening = {
      ...{ kind: 'interrupted', target: 'destinations', destinationIds: ['meadow'] },
      inputs: { landscape: 'on-air window', vertical: 'test picture' },
    }
    const recorded: Happening = {
      ...{ kind: 'recorded', name: 'Archive', file: 'archive.mkv', seconds: 5, megabytes: 1 },
    }
    expect(nightState(logOf([recorded, interrupted])).interrupted).toEqual(interrupted)
    expect(nightState(logOf([interrupted, ticked('line')])).interrupted).toEqual(interrupted)
    for (const after of [recorded, { kind: 'over' }, { kind: 'new night' }] as const)
      expect(nightState(logOf([interrupted, after])).interrupted).toBeNull()
  })

  // Folded with a copy for each entry this takes longer than a test may.
  it('of a log as long as is kept is folded whole', () => {
    const count = 20_000
    const marks = logOf(
      Array.from({ length: count }, (_, index): Happening => ({
        ...{ kind: 'marked', markId: `m${index}`, name: '', sceneId: null, backSeconds: 0 },
      })),
    )
    const state = nightState(marks)
    expect([state.marks.length, state.events.length]).toEqual([count, count])
  })

  const happenings = fc.array(
    fc.oneof(
      fc.constantFrom<Happening>(
        { kind: 'begun' },
        { kind: 'over' },
        { kind: 'new night' },
        { kind: 'noted', text: 'x' },
      ),
      fc.constantFrom('a', 'b', 'c').map((id) => ticked(id)),
      fc
        .constantFrom('a', 'b', 'c')
        .map((taskId): Happening => ({ kind: 'unticked', taskId, title: '' })),
      fc.constantFrom('m', 'n').map((markId): Happening => ({ kind: 'mark removed', markId })),
      fc.constantFrom('m', 'n').map((markId): Happening => ({
        kind: 'marked',
        markId,
        name: '',
        sceneId: null,
        backSeconds: 0,
      })),
    ),
    { maxLength: 30 },
  )

  it('is the same whether the log comes whole, in parts, or in parts that come twice', () => {
    fc.assert(
      fc.property(happenings, fc.array(fc.nat({ max: 30 }), { maxLength: 5 }), (list, cuts) => {
        const events = logOf(list)
        const whole = nightState(events)
        let state = noNight
        let had = 0
        for (const cut of [...cuts.sort((a, b) => a - b), events.length]) {
          // A window that was away asks from an entry it had before, and gets some twice.
          state = afterEvents(state, events.slice(Math.max(0, had - 3), cut))
          had = Math.min(events.length, Math.max(had, cut))
        }
        expect(state).toEqual(whole)
        expect(afterEvents(whole, events)).toEqual(whole)
      }),
    )
  })
})

/** Drives ticks as people might; the model is a plain list of what was ticked. */
class TickCommand implements fc.Command<
  { order: NightOrder },
  { ticks: Set<string>; knowingly: Set<string> }
> {
  constructor(
    private readonly index: number,
    private readonly insists: boolean,
  ) {}
  check = (): boolean => true
  run(
    { order }: { order: NightOrder },
    real: { ticks: Set<string>; knowingly: Set<string> },
  ): void {
    const task = order.tasks[this.index % order.tasks.length]!
    const done = ({ id }: { id: string }): boolean => real.ticks.has(id)
    if (real.ticks.has(task.id)) {
      real.ticks.delete(task.id)
      real.knowingly.delete(task.id)
      return
    }
    const words = outOfOrder(task, order, done)
    const missing = hardWaits(task).filter(
      (id) => order.tasks.some((other) => other.id === id) && !real.ticks.has(id),
    )
    // It says so exactly where something that has to come first is not done.
    expect(words === null).toBe(missing.length === 0)
    if (words !== null && !this.insists) return
    real.ticks.add(task.id)
    if (words !== null) real.knowingly.add(task.id)
  }
  toString = (): string => `tick ${this.index}${this.insists ? ' all the same' : ''}`
}

describe('the stages of a send', () => {
  const order = nightOrder(demoShow)

  it('cannot be passed in a wrong order without saying so', () => {
    fc.assert(
      fc.property(
        fc.commands(
          [
            fc
              .record({ index: fc.nat({ max: 60 }), insists: fc.boolean() })
              .map(({ index, insists }) => new TickCommand(index, insists)),
          ],
          { maxCommands: 80 },
        ),
        (commands) => {
          const real = { ticks: new Set<string>(), knowingly: new Set<string>() }
          fc.modelRun(() => ({ model: { order }, real }), commands)
          const done = ({ id }: { id: string }): boolean => real.ticks.has(id)
          for (const { id, on, rules } of demoShow.destinations) {
            if (!on) continue
            const stages = stagesOf(id, order, done)
            const reached = stageOf(id, order, done)
            // A later stage without the ones before only where somebody insisted, or took one back.
            if (reached && real.knowingly.size === 0 && !taken(real.ticks, order))
              for (const { stage, isReached, isAsked } of stages)
                if (sendStages.indexOf(stage) < sendStages.indexOf(reached) && isAsked)
                  expect(isReached).toBe(true)
            const frozen = real.ticks.has(`stop-${id}`) && !real.ticks.has(`end-${id}`)
            expect(frozenPicture(id, order, done) !== null).toBe(
              frozen && rules.end === 'pressed on its page',
            )
          }
        },
      ),
      { numRuns: runsOf(200) },
    )
  })
  /** Whether something is ticked whose condition was taken back since. */
  const taken = (ticks: ReadonlySet<string>, { tasks }: NightOrder): boolean =>
    tasks.some(
      (task) =>
        ticks.has(task.id) &&
        hardWaits(task).some((id) => tasks.some((other) => other.id === id) && !ticks.has(id)),
    )

  it('name what an end before its page’s leaves, and what arriving is not', () => {
    const task = (id: string) => order.tasks.find((each) => each.id === id)!
    const none = isDone({ ticks: new Map() }, new Set())
    expect(outOfOrder(task('stop-flickerbrook'), order, none)).toMatch(/frozen picture/)
    expect(outOfOrder(task('send-flickerbrook'), order, none)).toMatch(/^Without its key/)
    expect(outOfOrder(task('arrived-flickerbrook'), order, none)).toMatch(/^First: Start sending/)
    // What is known to be done is asked for no more.
    const known = isDone({ ticks: new Map() }, new Set(['send-flickerbrook']))
    expect(outOfOrder(task('arrived-flickerbrook'), order, known)).toBeNull()
  })
})
