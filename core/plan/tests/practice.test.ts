import { demoShow, plannedDemoShow } from '@green-mantle/demo'
import { describe, expect, it } from 'vitest'
import { destination, show as showWith } from '../../fit/testShows'
import { budgetOf, deviceUses } from '../../fit'
import { pictureScore, scoreWord } from '../../media'
import {
  lineOf,
  newRecording,
  type PictureKind,
  type Rendition,
  type Show,
  defaultFitSettings,
} from '../../show'
import { renditionInWords } from '../../words'
import { conflictsInWords, conflictsOf } from '../advice/conflicts'
import { fitShow } from '../fitShow'
import { gainsOf } from '../advice/gains'
import { gainInWords, gapInWords } from '../advice/gainWords'
import { nearestInWords, nearestPlan } from '../advice/nearest'
import { possibleImprovements } from '../advice/improvements'
import { nextStepInWords, nextStepOf } from '../advice/nextStep'
import { marginalInWords, marginalsOf } from '../advice/resourceUse'
import { runToEnd } from '../runToEnd'
import { planSummary } from '../planSummary'
import { planOf, withPlan } from '../showPlan'
import { bestAnswer, simpleAnswer, commonShapes } from '../advice/simpleAnswer'

/** A show without known devices, so that only the line counts, and without margins, so that only the score does. */
const onLine = (
  usableKbps: number,
  destinations: Show['destinations'],
  pictureKind: PictureKind = 'action',
): Show => ({
  ...showWith(usableKbps, destinations),
  pictureKind,
  ownPicture: null,
  computer: { name: '', devices: [], freeDiskGigabytes: null, measured: null },
  fit: { ...defaultFitSettings, marginPoints: 0, shapeMarginPoints: 0 },
})
const finest = { effort: 'finest' as const, pins: ['effort' as const] }
const place = (rules = {}, changes = {}, rendition: Partial<Rendition> = finest) =>
  destination(rendition, { mostVideoBitrateKbps: 12_000, ...rules }, changes)
const planned = (show: Show): Show => withPlan(show, fitShow(show).parts ?? [])
const shapeOf = (show: Show): string =>
  renditionInWords(planned(show).destinations[0]!.renditions[0]!)

// Common practice, no published source: the numbers in the names of these tests.
describe('common practice comes out of the planner', () => {
  it('10 Mb/s × 80 % = 8000 kb/s carries 1080p60', () => {
    const show = onLine(5000, [place()])
    const line = { ...lineOf(show), headroomPercent: 20 }
    expect(line.samples[0]!.uploadKbps).toBe(10_000)
    expect(shapeOf({ ...show, lines: [line] })).toBe('1080p60')
  })

  it('a send of 10,000 kb/s wants 12 Mb/s up', () => {
    const send = place({}, {}, { videoBitrateKbps: 10_000, pins: ['video bitrate'] })
    const withHeadroom = (upload: number): Show => {
      const show = onLine(upload / 2, [send])
      return { ...show, lines: [{ ...lineOf(show), headroomPercent: 14 }] }
    }
    expect(fitShow(withHeadroom(12_000)).worth?.leftOutWeight).toBe(0)
    expect(fitShow(withHeadroom(11_500)).worth?.leftOutWeight).toBeGreaterThan(0)
  })

  it.each([
    [6300, '720p60'],
    [7000, '720p60'],
    [8000, '1080p60'],
  ])('%i kb/s on fast action makes %s', (usableKbps, shape) => {
    expect(shapeOf(onLine(usableKbps, [place()]))).toBe(shape)
  })

  it('takes the larger one where it scores two points more, which is a little later', () => {
    const usual = (usableKbps: number): string =>
      shapeOf({ ...onLine(usableKbps, [place()]), fit: defaultFitSettings })
    expect(usual(8000)).toBe('720p60')
    expect(usual(9000)).toBe('1080p60')
    // 0.023 bits a pixel look like nothing anybody would send.
    const hands = onLine(1800, [place({}, {}, { framesPerSecond: 30, pins: ['frame rate'] })])
    expect(shapeOf({ ...hands, pictureKind: 'hands', fit: defaultFitSettings })).not.toMatch(/1080/)
  })

  it('1080p at 4.5 Mb/s is decent for talking, 720p at 3.5 Mb/s the usual default', () => {
    const answer = simpleAnswer(4_500 / 0.7 + 300, commonShapes[4], 'talking', 'desk')
    expect(answer?.score).toBeGreaterThan(80)
    expect(shapeOf(onLine(3800, [place({ mostVideoBitrateKbps: 4000 })], 'action'))).toMatch(
      /^720p/,
    )
  })

  it.each([
    [6000, 6000, 12_000, 15_000],
    [6400, 3000, 9000, 10_000],
  ])('landscape %i with vertical %i needs more than %i kb/s', (wide, tall, little, enough) => {
    const at = (videoBitrateKbps: number) => ({
      videoBitrateKbps,
      pins: ['video bitrate' as const],
    })
    const pair = [place({}, {}, at(wide)), place({}, { canvas: 'vertical' as const }, at(tall))]
    expect(fitShow(onLine(little, pair)).worth?.leftOutWeight).toBeGreaterThan(0)
    expect(fitShow(onLine(enough, pair)).worth?.leftOutWeight).toBe(0)
  })

  it('vertical 720×1280 takes 2250 to 6000 kb/s, 1080×1920 at 30 fps 3000 to 4800', () => {
    const tall = (usableKbps: number): Rendition =>
      planned(
        onLine(
          usableKbps,
          [place({ mostVideoBitrateKbps: 6000 }, { canvas: 'vertical' as const })],
          'talking',
        ),
      ).destinations[0]!.renditions[0]!
    for (const usableKbps of [2800, 4000, 5200]) {
      const { videoBitrateKbps } = tall(usableKbps)
      expect(videoBitrateKbps).toBeGreaterThan(2250)
      expect(videoBitrateKbps).toBeLessThan(6000)
    }
    const full = { ...tall(4000), width: 1080, height: 1920, framesPerSecond: 30 as const }
    const words = [3000, 4800].map((videoBitrateKbps) =>
      scoreWord(pictureScore({ ...full, videoBitrateKbps }, 'talking', 'phone')),
    )
    expect(words).toEqual(['clean', 'clean'])
  })

  it('4K at 30 fps: 10 to 20 Mb/s low to medium, up to 30 high', () => {
    const score = (kbps: number, kind: PictureKind): number =>
      simpleAnswer(kbps / 0.7, commonShapes[1], kind, 'tv')?.score ?? 0
    expect(score(10_000, 'action')).toBeGreaterThan(50)
    expect(score(20_000, 'action') - score(10_000, 'action')).toBeGreaterThan(5)
    expect(score(30_000, 'action')).toBeGreaterThan(80)
  })

  it('three separate encodes take three times the processing of one, a recording no upload', () => {
    const on = (audioBitrateKbps: number): Show['destinations'][number] =>
      destination({
        audioBitrateKbps,
        encoder: { ...demoShow.recordings[0]!.rendition.encoder, deviceId: 'desktop-processor' },
      })
    const load = (destinations: Show['destinations']): number =>
      deviceUses({ ...demoShow, destinations, recordings: [] })[0]!.load
    expect(load([on(96), on(128), on(160)])).toBeCloseTo(3 * load([on(96)]), 12)
    const show = onLine(8000, [place()])
    const size = show.canvasPair.landscape
    const recording = newRecording(() => 'file', 'File', { canvas: 'landscape', size })
    const recorded = planned({ ...show, recordings: [recording] })
    expect(budgetOf(recorded).totalKbps).toBe(budgetOf(planned(show)).totalKbps)
  })
})

describe('what the planner says of its plan', () => {
  const present = fitShow(plannedDemoShow)
  it('is proven for the demo, which fits', () => {
    expect(present.status.name).toBe('optimal')
    expect(present.worth).toMatchObject({ leftOutWeight: 0, belowFloor: 0 })
  })

  it('names the upload as what holds the demo back', () => {
    const [first] = runToEnd(marginalsOf(plannedDemoShow, present))
    expect(first?.id).toBe('upload')
    expect(first?.points).toBeGreaterThan(1)
  })

  it('offers less headroom only where there are measurements enough to say how low the line goes', () => {
    const [line] = plannedDemoShow.lines
    const samples = (count: number) =>
      Array.from({ length: count }, (_, index) => ({
        ...line!.samples[0]!,
        id: `s${index}`,
        uploadKbps: 18_000 + index,
      }))
    const ids = (count: number): string[] =>
      possibleImprovements({
        ...plannedDemoShow,
        lines: [{ ...line!, samples: samples(count) }],
        lineId: line!.id,
      }).map(({ id }) => id)
    expect(ids(19)).not.toContain('headroom')
    expect(ids(20)).toContain('headroom')
  })

  it('offers the sound of whoever has the same picture, since that alone has it encoded twice', () => {
    const pins: Rendition['pins'] = ['size', 'frame rate', 'video bitrate', 'effort']
    const named = (name: string, audioBitrateKbps: number, videoBitrateKbps: number) =>
      place({}, { id: name, name }, { ...finest, pins, audioBitrateKbps, videoBitrateKbps })
    const show = onLine(20_000, [
      named('A', 96, 2500),
      named('B', 128, 4000),
      named('C', 160, 4000),
    ])
    const present = fitShow(show)
    const gains = runToEnd(gainsOf(show, present))
    const same = gains.find(({ id }) => id === 'share C')!
    expect(same.label).toBe('Same sound for C as for B')
    expect(gainInWords(same)).toBe('1 encode less')
  })

  it('ranks ways to gain by what planning again finds', () => {
    const gains = runToEnd(gainsOf(plannedDemoShow, present))
    expect(gainInWords(gains[0]!)).toMatch(/^\+[\d.]+ points/)
    expect(gains.find(({ id }) => id === 'frames')?.points).toBeLessThan(0)
    expect(gains.map(({ points }) => points)).toEqual(
      [...gains].map(({ points }) => points).sort((a, b) => b - a),
    )
    const withRelay = gains.find(({ id }) => id === 'relay relayhouse')
    expect(withRelay).toBeDefined()
  })

  it('tries every kind of way, and none that is forced is better than what the planner chose', () => {
    const gains = runToEnd(gainsOf(plannedDemoShow, present))
    const kinds = new Set(gains.map(({ id }) => id.split(' ')[0]))
    for (const kind of ['traffic', 'relay', 'share', 'rate', 'size', 'frames'])
      expect(kinds).toContain(kind)
    for (const kind of ['codec', 'device', 'record', 'no']) expect(kinds).toContain(kind)
    const forced = gains.filter(({ id }) => /^(rate|size|device) /.test(id))
    const margin = (plannedDemoShow.fit.marginPoints * 10) / 2
    for (const { keptWeight, aboveFloor, points } of forced)
      expect(
        [keptWeight, aboveFloor, points - margin].find((effect) => effect !== 0) ?? 0,
      ).toBeLessThanOrEqual(0)
  })

  it('says whom one more unit would lift', () => {
    const [first] = runToEnd(marginalsOf(plannedDemoShow, present))
    expect(marginalInWords(first!)).toMatch(
      /^One more Mb\/s of upload would lift \S.* from \d+ to \d+( and \S.* from \d+ to \d+)?\.$/,
    )
    const after = new Map(first!.changes.map(({ name, to }) => [name, to]))
    for (const change of first!.changes)
      expect(after.get(change.name)?.score).toBe(change.to?.score)
  })

  it('promises of a way what trying it on the planned show brings', () => {
    const carriedOut = withPlan(plannedDemoShow, present.parts!)
    expect(carriedOut).not.toEqual(plannedDemoShow)
    expect(runToEnd(gainsOf(plannedDemoShow, present))).toEqual(
      runToEnd(gainsOf(carriedOut, present)),
    )
  })

  it('brings what a relay is sent within the relay’s own rules on sound', () => {
    const destinations = plannedDemoShow.destinations.map((each) =>
      each.connection === 'relay'
        ? {
            ...each,
            on: true,
            rules: { ...each.rules, mostAudioBitrateKbps: 128 },
            renditions: each.renditions.map((one) => ({ ...one, audioBitrateKbps: 320 })),
          }
        : {
            ...each,
            relayId: each.connection === 'address and key' ? 'relayhouse' : each.relayId,
            plan: { ...each.plan, routePinned: true },
          },
    )
    const relayed = planned({ ...plannedDemoShow, destinations })
    expect(relayed.destinations.some(({ relayId }) => relayId === 'relayhouse')).toBe(true)
    const relay = relayed.destinations.find(({ id }) => id === 'relayhouse')
    expect(relay?.renditions[0]?.audioBitrateKbps).toBeLessThanOrEqual(128)
  })

  it('names a smallest set of demands that collide', () => {
    const pinned = (kbps: number, name: string) =>
      place({}, { name }, { videoBitrateKbps: kbps, pins: ['video bitrate'] })
    const show = onLine(9000, [pinned(6000, 'One'), pinned(5000, 'Two'), pinned(200, 'Three')])
    const conflicts = conflictsOf(show)
    expect(conflictsInWords(conflicts)).toBe(
      'These cannot all be met at once, and letting go of any one of them would do: One is sent, Two is sent, the video bitrate for One is pinned and the video bitrate for Two is pinned.',
    )
    for (const { without } of conflicts.demands) {
      const { demands } = conflictsOf(without(show))
      expect(demands).toEqual([])
      expect(conflictsInWords({ demands, isProven: true })).toBe('')
    }
    const unproven = conflictsInWords({ ...conflicts, isProven: false })
    expect(unproven).toMatch(/^No plan was found that meets all of these, which does not prove/)
    expect(conflictsInWords({ ...conflicts, demands: conflicts.demands.slice(0, 1) })).toBe(
      'This cannot be met, and letting go of it would do: One is sent.',
    )
  })

  it('says how far an unproven plan may be from the best, where that is known', () => {
    expect(gapInWords(120)).toBe('at most 1.2 points better')
    expect(gapInWords(null)).toBeNull()
  })

  it('says by how much the nearest plan misses', () => {
    const must = place({}, {}, { videoBitrateKbps: 6000, pins: ['video bitrate'] })
    const show = onLine(5000, [{ ...must, plan: { ...must.plan, mustKeep: true } }])
    expect(fitShow(show).parts).toBeNull()
    const nearest = nearestPlan(show)
    expect(nearest.missKbps).toBeGreaterThan(1000)
    expect(nearest.missKbps).toBeLessThan(1400)
    expect(nearestInWords(nearest)).toMatch(/^The nearest plan misses by 1.\d Mb\/s of upload\.$/)
    expect(nearestInWords({ ...nearest, isProven: false })).toMatch(/; less may be enough\.$/)
    // What it misses by is what is then sent too much.
    const carriedOut = withPlan(show, nearest.result!.parts!)
    expect(Math.abs(-budgetOf(carriedOut).spareKbps - nearest.missKbps!)).toBeLessThan(3)
    const [best] = runToEnd(gainsOf(show, fitShow(show)))
    expect(best?.opensPlan).toBe(true)
    expect(gainInWords(best!)).toMatch(/^makes room for/)
  })

  it('sums kept plans up for comparison', () => {
    const summary = planSummary(demoShow, planOf(demoShow))
    expect(summary.rows.map(({ name }) => name)).toEqual([
      'Longmeadow',
      'Flickerbrook',
      'Commonhall',
      'Archive file',
    ])
    expect(summary.encodeCount).toBe(4)
  })

  it('answers simple questions', () => {
    const answer = simpleAnswer(10_000, commonShapes[3], 'hands', 'desk')
    expect(answer?.wireKbps).toBeLessThanOrEqual(7000)
    expect(answer?.level).toBe('4.2')
    expect(bestAnswer(1500, 'action', 'desk')?.rendition.height).toBeLessThan(720)
    expect(simpleAnswer(100, commonShapes[0], 'action', 'desk')).toBeNull()
  })
})

describe('the next step up', () => {
  it('costs the others what planning again with it says', () => {
    const show = onLine(9000, [
      place({}, { id: 'one', name: 'One' }),
      place({}, { id: 'two', name: 'Two' }),
    ])
    // Two that differ in what is not chosen cannot share, so that bits for one are taken from the other.
    show.destinations[1]!.renditions[0]!.keyframeIntervalSeconds = 1
    const before = planned(show)
    const next = nextStepOf(before, 'one')!
    expect(next.gainPoints).toBeGreaterThanOrEqual(1)
    expect(next.rendition.videoBitrateKbps).toBeGreaterThan(
      before.destinations[0]!.renditions[0]!.videoBitrateKbps,
    )
    expect(next.costs).toEqual([expect.objectContaining({ name: 'Two', isLeftOut: false })])
    expect(next.costs![0]!.points).toBeGreaterThan(0)
    expect(nextStepInWords(next)).toMatch(
      /^Next step up: [\d,]+ kb\/s of \S+ gains [\d.]+ points? and costs Two [\d.]+ points?\.$/,
    )
  })

  it('costs nothing where there is room, and is none at the limit', () => {
    const low = { ...finest, videoBitrateKbps: 2000, pins: ['video bitrate' as const] }
    const roomy = planned(onLine(20_000, [place({}, { id: 'one' }, low)]))
    const next = nextStepOf(roomy, 'one')!
    expect(next.costs).toEqual([])
    expect(nextStepInWords(next)).toContain('and costs the others nothing.')
    const capped = onLine(20_000, [place({ mostVideoBitrateKbps: 2000 }, { id: 'one' }, low)])
    expect(nextStepOf(planned(capped), 'one')).toBeNull()
  })

  it('says where no plan has room for it', () => {
    const tight = planned(onLine(2500, [place({}, { id: 'one' })]))
    const next = nextStepOf(tight, 'one')!
    expect(next.costs).toBeNull()
    expect(nextStepInWords(next)).toContain('no plan has room for it.')
  })
})
