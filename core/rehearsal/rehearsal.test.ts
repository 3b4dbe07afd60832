import { plannedDemoShow } from '@green-mantle/demo'
import { describe, expect, it } from 'vitest'
import { budgetOf } from '../fit'
import { fitShow, withPlan } from '../plan'
import { type Incident, lineOf, type Show } from '../show'
import { manyNights, nightsFromTheFirst, type NightSummary } from '../simulation'
import { enoughHeadroom, type HeadroomPoint, isSettled } from './enoughHeadroom'
import { familyAt, nightsAt, nightsOf, plannedFor, withHeadroom } from './headroom'
import { rehearsalInWords, rehearsalKey, rehearsalState, wishKey } from './planKey'
import { rankedRemedies, remediesFor } from './remedies'
import { tryRemedy } from './tryRemedy'
import { isDeep } from '../../tests/tier'

const planned = (show: Show): Show => withPlan(show, fitShow(show).parts ?? [])
/** The demo on its Wi-Fi, an hour long: rough enough that headroom matters. */
const rough = planned({
  ...plannedDemoShow,
  durationMinutes: 60,
  lines: plannedDemoShow.lines.map((line) => ({ ...line, medium: null })),
})
const startsAtHour = 21

function finish(show: Show, percent: number, maxNights: number): HeadroomPoint {
  const finding = nightsAt(show, percent, { maxNights, startsAtHour })
  for (;;) {
    const { value, done } = finding.next()
    if (done) return value
  }
}

describe('what was rehearsed', () => {
  const withLast = (clean: number, wantedPercent = 95): Show => ({
    ...rough,
    rehearsal: {
      ...rough.rehearsal,
      wantedPercent,
      last: { planKey: rehearsalKey(rough), nights: 1000, clean, at: '2026-12-01T10:00:00Z' },
    },
  })

  it('is said with the verdict, and never rounded up to a promise', () => {
    expect(rehearsalInWords(rough)).toBe('')
    expect(rehearsalInWords(withLast(939))).toBe('clean on 93 of 100 nights')
    expect(rehearsalInWords(withLast(999))).toBe('clean on 99 of 100 nights')
    expect(rehearsalState(withLast(939))).toMatchObject({ isEnough: false })
    expect(rehearsalState(withLast(939, 90))).toMatchObject({ isEnough: true })
  })

  it('is out of date when the plan, the line or an incident changed, and not when a title did', () => {
    const show = withLast(950)
    expect(rehearsalState({ ...show, ...{ title: 'Another' } }).name).toBe('rehearsed')
    expect(rehearsalState({ ...show, rehearsal: { ...show.rehearsal, seed: 9 } }).name).toBe(
      'out of date',
    )
    const incident: Incident = {
      id: 'i',
      kind: 'outage',
      on: true,
      atSeconds: 5,
      durationSeconds: 5,
    }
    const changed = { ...show, rehearsal: { ...show.rehearsal, incidents: [incident] } }
    expect(rehearsalState(changed).name).toBe('out of date')
    expect(rehearsalState(withHeadroom(show, 12)).name).toBe('out of date')
  })
})

describe('the wish for clean nights', () => {
  it('hangs on the line and the destinations, and not on what follows from it', () => {
    const key = wishKey(rough)
    expect(wishKey(withHeadroom(rough, 55))).toBe(key)
    expect(wishKey(planned(withHeadroom(rough, 55)))).toBe(key)
    const [first, ...rest] = rough.destinations
    expect(wishKey({ ...rough, destinations: [{ ...first!, on: false }, ...rest] })).not.toBe(key)
    const lines = rough.lines.map((line) => ({ ...line, samples: line.samples.slice(1) }))
    expect(wishKey({ ...rough, lines })).not.toBe(key)
  })
})

describe('headroom', () => {
  it('plans anew: more of it leaves less to spend, and no fewer nights clean', () => {
    const [little, much] = [finish(rough, 0, 100), finish(rough, 50, 100)]
    expect(much.share.share).toBeGreaterThanOrEqual(little.share.share)
    expect(much.points!).toBeLessThan(little.points!)
    const kbps = (percent: number): number =>
      plannedFor(rough, percent)!.show.destinations[0]!.renditions[0]!.videoBitrateKbps
    expect(kbps(50)).toBeLessThanOrEqual(kbps(0))
  })

  it('keeps one family of plans: more of it is never a bit more sent, and who is served stays', () => {
    const sentAt = [0, 10, 20, 30, 40, 50, 60].map((percent) => {
      const family = familyAt(plannedDemoShow, percent)!
      const { totalKbps, spareKbps } = budgetOf(family)
      expect(spareKbps).toBeGreaterThanOrEqual(0)
      const shapes = (show: Show) =>
        show.destinations.map(({ on, plan, renditions }) => [
          on,
          plan.leftOut,
          renditions.map(({ width, height, framesPerSecond, codec }) => [
            width,
            height,
            framesPerSecond,
            codec,
          ]),
        ])
      expect(shapes(family)).toEqual(shapes(plannedDemoShow))
      return totalKbps
    })
    for (const [index, kbps] of sentAt.slice(1).entries())
      expect(kbps).toBeLessThanOrEqual(sentAt[index]! + 1e-9)
    expect(sentAt.at(-1)!).toBeLessThan(0.6 * sentAt[0]!)
    // On the same nights less sent is no night lost.
    const clean = [10, 30, 50].map((percent) => finish(plannedDemoShow, percent, 40).clean)
    expect([...clean].sort((a, b) => a - b)).toEqual(clean)
  })

  it('gives a point up once its interval lies clear of the wanted share', () => {
    const easy = finish({ ...rough, rehearsal: { ...rough.rehearsal, wantedPercent: 50 } }, 50, 400)
    expect(easy.nights).toBeLessThan(400)
    expect(isSettled(easy.share, 0.5)).toBe(true)
  })

  it('is enough where the interval lies above, not where the share does', () => {
    const point = (percent: number, low: number): HeadroomPoint => ({
      percent,
      clean: 0,
      nights: 100,
      share: { share: 0.97, low, high: 1 },
      anew: { share: 0.99, low: 0.98, high: 1 },
      points: 10,
      leftOut: 0,
    })
    expect(enoughHeadroom([point(40, 0.97), point(20, 0.93), point(30, 0.951)], 95)?.percent).toBe(
      30,
    )
    expect(enoughHeadroom([point(20, 0.93)], 95)).toBeNull()
    expect(enoughHeadroom([{ ...point(20, 0.99), points: null }], 95)).toBeNull()
    // Setting it plans anew: that has to be enough too.
    const worse = { ...point(20, 0.99), anew: { share: 0.9, low: 0.85, high: 0.94 } }
    expect(enoughHeadroom([worse, point(30, 0.99)], 95)?.percent).toBe(30)
    expect(enoughHeadroom([{ ...point(20, 0.99), anew: null }], 95)).toBeNull()
  })
})

describe('remedies', () => {
  const incident: Incident = {
    id: 'dip',
    kind: 'upload dips',
    on: true,
    atSeconds: 600,
    durationSeconds: 120,
    leftPercent: 55,
  }
  const stiff: Show = {
    ...rough,
    destinations: rough.destinations.map((each) => ({
      ...each,
      sending: { ...each.sending, whenBehind: 'drop' as const },
    })),
    rehearsal: { ...rough.rehearsal, incidents: [incident] },
  }
  const before = nightsOf(stiff, { from: 0, to: isDeep ? 60 : 12, startsAtHour })

  it('are run on the same nights, and rank by nights won against points lost', () => {
    const results = remediesFor(stiff).map((remedy) =>
      tryRemedy(stiff, remedy, before, startsAtHour),
    )
    const lower = results.find(({ id }) => id === 'lower all')!
    expect(lower.won).toBeGreaterThan(0)
    expect(lower.clean - lower.won).toBe(before.filter(({ isClean }) => isClean).length)
    const ranked = rankedRemedies(results)
    expect(ranked.every(({ won }) => won > 0)).toBe(true)
    ranked
      .slice(1)
      .forEach((each, index) => expect(each.won).toBeLessThanOrEqual(ranked[index]!.won))
    // Nothing is gained for free by leaving somebody out.
    for (const { id, points } of results)
      if (id.startsWith('without')) expect(points).toBeLessThan(0)
  })

  it('promise what taking them brings: the show planned anew where it plans by itself', () => {
    const remedy = remediesFor(stiff).find(({ id }) => id.startsWith('without'))!
    const some = before.slice(0, 10)
    const tried = tryRemedy(stiff, remedy, some, startsAtHour)
    const taken = planned(remedy.change(stiff))
    const nights = nightsOf(taken, { from: 0, to: 10, startsAtHour })
    expect(tried.clean).toBe(nights.filter(({ isClean }) => isClean).length)
    const byHand = { ...stiff, fit: { ...stiff.fit, automatic: false } }
    const kept = nightsOf(remedy.change(byHand), { from: 0, to: 10, startsAtHour })
    expect(tryRemedy(byHand, remedy, some, startsAtHour).clean).toBe(
      kept.filter(({ isClean }) => isClean).length,
    )
  })

  it('change what they say, and leave the rest', () => {
    const remedy = remediesFor(stiff).find(({ id }) => id.startsWith('traffic'))!
    const after = remedy.change(stiff)
    expect(lineOf(after).otherTraffic.filter(({ on }) => on).length).toBeLessThan(
      lineOf(stiff).otherTraffic.filter(({ on }) => on).length,
    )
    expect(after.destinations).toBe(stiff.destinations)
  })
})

describe('two of one name', () => {
  it('are told apart by what they are, not by what they are called', () => {
    const [first] = rough.destinations
    const twin = { ...first!, id: 'twin', renditions: [{ ...first!.renditions[0]!, id: 'twin-1' }] }
    const cut: Incident = {
      id: 'i',
      kind: 'hangs up',
      on: true,
      atSeconds: 60,
      durationSeconds: 60,
      destinationId: 'twin',
    }
    const show = {
      ...rough,
      destinations: [{ ...first!, on: true }, twin],
      rehearsal: { ...rough.rehearsal, incidents: [cut] },
    }
    const [night] = nightsOf(show, { from: 0, to: 1, startsAtHour })
    expect(night).toMatchObject({ isClean: false, cause: 'destination', who: first!.name })
    expect(night!.awaySeconds[0]).toBe(0)
    expect(night!.awaySeconds[1]).toBeGreaterThan(50)
  })
})

describe('many nights', () => {
  it('come to shares, causes and spreads that add up', () => {
    const night = (number: number, isClean: boolean, badness: number): NightSummary => ({
      night: number,
      isClean,
      cause: isClean ? null : number % 2 === 0 ? 'line' : 'computer',
      who: isClean ? null : 'Commonhall',
      badness,
      lostShare: [number / 1000],
      awaySeconds: [0],
      behindSeconds: [1],
      score: [80],
    })
    const nights = Array.from({ length: 100 }, (_, number) =>
      night(number, number >= 7, 100 - number),
    )
    const many = manyNights(nights)
    expect(many).toMatchObject({ nights: 100, clean: 93, worst: 0, firstUnclean: 0 })
    expect(many.share.low).toBeCloseTo(0.863, 3)
    expect(many.causes).toEqual([
      { cause: 'line', nights: 4, first: 'Commonhall' },
      { cause: 'computer', nights: 3, first: 'Commonhall' },
    ])
    expect(many.spreads[0]!.lostShare).toEqual({ low: 0.005, middle: 0.05, high: 0.095 })
    expect(manyNights([])).toMatchObject({ nights: 0, worst: null, causes: [] })
  })

  it('are taken from the first on without a gap, where a run was stopped', () => {
    const nights = nightsOf(rough, { from: 0, to: 8, startsAtHour })
    const [a, b, c, , ...later] = nights
    expect(nightsFromTheFirst([...later, c!, a!, b!], 300)).toEqual([a, b, c])
    expect(nightsFromTheFirst(nights, 2)).toEqual([a, b])
    expect(nightsFromTheFirst(later, 300)).toEqual([])
  })

  it('are the same in whatever pieces they are run', () => {
    const whole = nightsOf(rough, { from: 0, to: 12, startsAtHour })
    const pieces = [
      ...nightsOf(rough, { from: 5, to: 12, startsAtHour }),
      ...nightsOf(rough, { from: 0, to: 5, startsAtHour }),
    ].sort((a, b) => a.night - b.night)
    expect(pieces).toEqual(whole)
  })
})
