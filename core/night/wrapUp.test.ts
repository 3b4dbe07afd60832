import { demoShow } from '@green-mantle/demo'
import { describe, expect, it } from 'vitest'
import { pictureScore } from '../media'
import { pictureOf } from '../show'
import { learntOf, withLearnt } from './learnt'
import type { Happening, NightEvent } from './nightEvents'
import { nightOrder } from './nightOrder'
import { nightsOf, nightState, noNight, putAwayAt } from './nightState'
import { wrapUp } from './wrapUp'

const begin = Date.parse('2026-12-12T20:00:00Z')
/** A log of happenings, ten seconds apart. */
const logOf = (happenings: readonly Happening[]): NightEvent[] =>
  happenings.map((happening, index) => ({
    ...{ id: `e${index}`, who: 'Ines', happening, sequence: index + 1 },
    at: new Date(begin + index * 10_000).toISOString(),
  }))
const ticked = (taskId: string, knowingly = false): Happening => ({
  ...{ kind: 'ticked', taskId, knowingly },
  title: taskId,
})
const wrappedOf = (...happenings: Happening[]) =>
  wrapUp(demoShow, nightOrder(demoShow), nightState(logOf(happenings)), new Set(), new Date())

describe('the wrap-up', () => {
  it('holds what happened against what was planned', () => {
    const order = nightOrder(demoShow)
    const startsAt = new Date('2026-12-12T20:01:00Z')
    const state = nightState(
      logOf([
        { kind: 'begun' },
        ticked('send-flickerbrook'),
        ticked('arrived-flickerbrook'),
        ticked('start-flickerbrook'),
        {
          kind: 'trouble',
          destinationId: 'flickerbrook',
          name: 'Flickerbrook',
          trouble: 'hung up',
        },
        ...Array.from({ length: 20 }, (): Happening => ({ kind: 'noted', text: 'x' })),
        ticked('on-air'),
        ticked('last-scene'),
        ticked('stop-flickerbrook', true),
        ticked('end-flickerbrook'),
      ]),
    )
    const wrapped = wrapUp(demoShow, order, state, new Set(), startsAt)
    // The 26th entry, at 250 s; the start was planned at 60 s.
    expect(wrapped).toMatchObject({ startLateSeconds: 190, ranLongSeconds: 10 - 7200 })
    expect(
      wrapped.sends.find(({ destinationId }) => destinationId === 'flickerbrook'),
    ).toMatchObject({
      liveSeconds: 240,
      wasFrozen: true,
      troubles: [{ words: 'hung up' }],
    })
    expect(wrapped.outOfOrder).toEqual(['Stop sending to Flickerbrook'])
    expect(wrapped.toChange.join(' ')).toMatch(
      /began 3 min late[\s\S]*Flickerbrook was stopped here/,
    )
    expect(wrapped.notDone).toContain('Start sending to Longmeadow')
  })

  it('says what was lost of what went out from here, and which recording is short', () => {
    const sent = (lostFrames: number): Happening => ({
      ...{ kind: 'sent', destinationId: 'longmeadow', name: 'Longmeadow', isBackup: false },
      ...{ seconds: 60, meanKbps: 5200, plannedKbps: 5460, sentFrames: 970, reconnects: 0 },
      lostFrames,
    })
    const recorded = (seconds: number | null): Happening => ({
      ...{ kind: 'recorded', name: 'Archive file', file: '/a.mkv', seconds, megabytes: 1 },
    })
    const changes = (...happenings: Happening[]) =>
      wrapUp(
        demoShow,
        nightOrder(demoShow),
        nightState(logOf(happenings)),
        new Set(),
        new Date(),
      ).toChange.join(' ')
    // Common practice, no published source: viewers notice over 1 %.
    expect(changes(sent(9))).not.toMatch(/lost/)
    expect(changes(sent(30))).toMatch(/^Longmeadow lost 3.0 % of its frames/)
    expect(changes(recorded(7190))).toBe('')
    expect(changes(recorded(3600))).toMatch(/^Archive file holds 1 h 0 min of 2 h 0 min/)
    expect(changes(recorded(null))).toMatch(/holds 0 s/)
    // Where the encoder began anew there are two files, and the longer counts.
    expect(changes(recorded(7190), recorded(10))).toBe('')
  })

  it('says nothing of a night that has not begun', () => {
    const wrapped = wrapUp(demoShow, nightOrder(demoShow), noNight, new Set(), new Date())
    expect(wrapped).toMatchObject({ begunAt: null, onAirAt: null, toChange: [], marks: [] })
  })

  describe('of what viewers had', () => {
    const longmeadow = demoShow.destinations.find(({ id }) => id === 'longmeadow')!
    const main = longmeadow.renditions[0]!
    const plannedKbps = main.videoBitrateKbps + main.audioBitrateKbps
    const sent = (changes: Partial<Extract<Happening, { kind: 'sent' }>> = {}): Happening => ({
      ...{ kind: 'sent', destinationId: 'longmeadow', name: 'Longmeadow', isBackup: false },
      ...{ seconds: 60, meanKbps: plannedKbps, plannedKbps, sentFrames: 3600, lostFrames: 0 },
      reconnects: 0,
      ...changes,
    })
    const scoreOf = (...happenings: Happening[]) =>
      wrappedOf(...happenings).sends.find(({ destinationId }) => destinationId === 'longmeadow')
        ?.score

    it('scores what was planned, and the same where all of it went out', () => {
      const score = scoreOf(sent())!
      const screens = longmeadow.viewers.map((screen) =>
        pictureScore(main, pictureOf(demoShow), screen),
      )
      const mean = screens.reduce((sum, each) => sum + each, 0) / screens.length
      expect(score.planned).toBeCloseTo(mean, 9)
      expect(score.happened).toBeCloseTo(mean, 9)
    })

    it('scores less where frames were lost or the encoder gave less, and nothing for nothing', () => {
      const { planned, happened } = scoreOf(sent({ sentFrames: 1800, lostFrames: 1800 }))!
      expect(happened).toBeLessThan(planned - 1)
      // Half of the bits went with half of the frames: those that came are as good as planned.
      const fewer = { sentFrames: 1800, lostFrames: 1800, meanKbps: plannedKbps / 2 }
      expect(scoreOf(sent(fewer))!.happened).toBeCloseTo(happened, 9)
      expect(scoreOf(sent({ meanKbps: plannedKbps / 2 }))!.happened).toBeLessThan(planned)
      expect(scoreOf()).toBeNull()
      expect(scoreOf(sent({ sentFrames: 0, lostFrames: 0 }))).toBeNull()
      // A second ingest is not what its viewers have.
      expect(scoreOf(sent({ isBackup: true }))).toBeNull()
    })

    it('weighs what went out twice by how long it did', () => {
      const half = { sentFrames: 1800, lostFrames: 1800 }
      const between = scoreOf(sent(), sent(half))!.happened
      expect(between).toBeLessThan(scoreOf(sent())!.happened)
      expect(between).toBeGreaterThan(scoreOf(sent(half))!.happened)
    })

    it('says how often the picture stood still', () => {
      const viewed = { awaySeconds: 20, freezes: 2, frozenSeconds: 12 }
      expect(wrappedOf(sent({ viewed })).toChange.join(' ')).toBe(
        'Longmeadow stood still for its viewers twice, 12 s in all.',
      )
    })
  })

  describe('of what can be learnt', () => {
    const shortage = { startedAt: '2026-12-12T20:10:00Z', seconds: 40, carriedKbps: 5120.4 }
    const carried = (...shortages: (typeof shortage)[]): Happening => ({
      ...{ kind: 'carried', seconds: 7200, meanKbps: 9100, shortages },
    })
    const encoded = (processorShare: number, seconds = 7200): Happening => ({
      ...{ kind: 'encoded', canvas: 'landscape', speed: 1, plannedShare: 0.4 },
      ...{ processorShare, pictureShare: 0, seconds },
    })

    it('takes what the line carried where it was short as a measurement, and nothing else', () => {
      const learnt = learntOf(demoShow, wrappedOf(carried(shortage)))
      expect(learnt.samples).toMatchObject([
        { measuredAt: '2026-12-12T20:10:00Z', uploadKbps: 5120 },
      ])
      expect(learntOf(demoShow, wrappedOf(carried()))).toEqual({ samples: [], loadFactor: null })
      expect(wrappedOf(carried(shortage)).toChange.join(' ')).toMatch(
        /^The line was short for 40 s in all and carried 5.1 Mb\/s at the least/,
      )
    })

    it('takes what the encodes took of the processor, and gives a show with all of it', () => {
      const learnt = learntOf(demoShow, wrappedOf(carried(shortage), encoded(0.6)))
      expect(learnt.loadFactor).toBeCloseTo(1.5, 9)
      // One that was begun and stopped at once says nothing.
      const tried = learntOf(demoShow, wrappedOf(encoded(0.6), encoded(0.01, 4)))
      expect(tried.loadFactor).toBeCloseTo(1.5, 9)
      const next = withLearnt(demoShow, learnt, () => 'new')
      const samples = (show: typeof demoShow) =>
        show.lines.find(({ id }) => id === show.lineId)!.samples
      expect(samples(next)).toHaveLength(samples(demoShow).length + 1)
      expect(samples(next).at(-1)).toMatchObject({ id: 'new', uploadKbps: 5120 })
      const speed = (show: typeof demoShow) =>
        show.computer.devices.find(({ kind }) => kind === 'processor')!.throughputs[0]!
          .megapixelsPerSecond
      expect(speed(next) / speed(demoShow)).toBeCloseTo(1 / 1.5, 2)
      expect(withLearnt(demoShow, { samples: [], loadFactor: null }, () => 'new')).toEqual(demoShow)
    })
  })
})

it('earlier nights are told apart, and one that nothing was kept of is none', () => {
  const log = logOf([
    { kind: 'begun' },
    ticked('line'),
    { kind: 'new night' },
    { kind: 'new night' },
    { kind: 'begun' },
  ])
  const nights = nightsOf(log)
  expect(nights.map((events) => nightState(events).ticks.size)).toEqual([1, 0])
  expect(nights.map((events) => nightState(events).begunAt)).toEqual([
    '2026-12-12T20:00:00.000Z',
    '2026-12-12T20:00:40.000Z',
  ])
  expect(nights.map((events) => putAwayAt(log, events))).toEqual([3, null])
  expect(nightsOf([])).toEqual([])
})
