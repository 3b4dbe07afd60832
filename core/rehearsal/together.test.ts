import { plannedDemoShow } from '@green-mantle/demo'
import { describe, expect, it } from 'vitest'
import { fitShow, withPlan } from '../plan'
import { isTaken, lineOf, type Show } from '../show'
import { wilson } from '../simulation'
import { nightsOf, withHeadroom } from './headroom'
import {
  betterTogether,
  finalistsOf,
  headroomsTogether,
  jointChoiceOf,
  jointlyAt,
  jointResult,
  type JointResult,
  waysToTry,
  withWays,
} from './together'

const planned = (show: Show): Show => withPlan(show, fitShow(show).parts ?? [])
const startsAtHour = 21
/** The demo half an hour long, every send dropping frames, on a line that dips in the middle. */
const stiff: Show = planned({
  ...plannedDemoShow,
  durationMinutes: 30,
  destinations: plannedDemoShow.destinations.map((each) => ({
    ...each,
    sending: { ...each.sending, whenBehind: 'drop' as const },
  })),
  rehearsal: {
    ...plannedDemoShow.rehearsal,
    incidents: [
      {
        id: 'dip',
        kind: 'upload dips',
        on: true,
        atSeconds: 600,
        durationSeconds: 300,
        leftPercent: 60,
      },
    ],
  },
})
const result = (part: Partial<JointResult>): JointResult => {
  const { clean = 95, nights = 100 } = part
  return {
    ...{ headroomPercent: 20, lowering: [], clean, nights, share: wilson(clean, nights) },
    seenPoints: 200,
    ...part,
  }
}

describe('headroom and who gives way, together', () => {
  it('are every combination while there are few sends, and the telling ones of many', () => {
    const ways = waysToTry(stiff)
    const count = stiff.destinations.filter(
      (each) => isTaken(each) && each.connection !== 'hand-off' && each.relayId === null,
    ).length
    expect(count).toBeGreaterThan(1)
    expect(new Set(ways.map((way) => way.join())).size).toBe(2 ** count)
    const crowd = {
      ...stiff,
      destinations: Array.from({ length: 9 }, (_, index) => ({
        ...stiff.destinations.find(isTaken)!,
        id: `d${index}`,
      })),
    }
    expect(waysToTry(crowd)).toHaveLength(2 + 2 * 9)
  })

  it('leave alone what holds, and what another program sends', () => {
    const [first, ...rest] = stiff.destinations
    const holds = { ...first!, sending: { ...first!.sending, whenBehind: 'hold' as const } }
    const show = { ...stiff, destinations: [holds, ...rest] }
    expect(waysToTry(show).flat()).not.toContain(first!.id)
    expect(withWays(show, [first!.id]).destinations[0]).toBe(holds)
    for (const each of withWays(stiff, []).destinations)
      if (each.connection === 'hand-off')
        expect(each).toBe(stiff.destinations.find(({ id }) => id === each.id))
  })

  it('are run as taking them leaves the show, on the same nights as what there is', () => {
    const percent = lineOf(stiff).headroomPercent + 15
    const found = jointlyAt(stiff, percent, { nights: 6, startsAtHour })
    expect(found).toHaveLength(waysToTry(stiff).length)
    for (const each of [found[0]!, found.at(-1)!]) {
      const taken = withWays(planned(withHeadroom(stiff, percent)), each.lowering)
      const nights = nightsOf(taken, { from: 0, to: 6, startsAtHour })
      expect(each.clean).toBe(nights.filter(({ isClean }) => isClean).length)
      const sums = nights.map(({ score }) => score.reduce((sum, own) => sum + own, 0))
      expect(each.seenPoints).toBeCloseTo(sums.reduce((sum, own) => sum + own, 0) / 6, 9)
      expect(jointResult(stiff, each, { nights: 6, startsAtHour })).toEqual(each)
    }
  })

  it('see that lowering saves what a dip would cost', () => {
    const percent = lineOf(stiff).headroomPercent
    const found = jointlyAt(stiff, percent, { nights: 10, startsAtHour })
    const none = found.find(({ lowering }) => lowering.length === 0)!
    const all = found.reduce((most, each) =>
      each.lowering.length > most.lowering.length ? each : most,
    )
    expect(none).toMatchObject(jointChoiceOf(stiff))
    expect(all.seenPoints).toBeGreaterThan(none.seenPoints)
    expect(all.clean).toBeGreaterThan(none.clean)
  })

  it('plan nothing where cells are set by hand: only today’s headroom can be kept', () => {
    const byHand = { ...stiff, fit: { ...stiff.fit, automatic: false } }
    expect(jointlyAt(byHand, 60, { nights: 1, startsAtHour })).toEqual([])
    const now = lineOf(stiff).headroomPercent
    expect(jointlyAt(byHand, now, { nights: 1, startsAtHour })).not.toEqual([])
  })

  it('ask for no less headroom on the strength of few measurements', () => {
    const now = lineOf(stiff).headroomPercent
    expect(Math.min(...headroomsTogether(stiff, false))).toBe(now)
    expect(headroomsTogether(stiff, true)).toContain(0)
    expect(headroomsTogether(stiff, true)).toContain(now)
  })
})

describe('what is offered', () => {
  it('is as clean as wanted and seen better; where it is not clean enough now, cleaner', () => {
    const now = result({ clean: 96 })
    const better = result({ headroomPercent: 0, lowering: ['a'], seenPoints: 203 })
    const unclean = result({ headroomPercent: 5, clean: 80, seenPoints: 210 })
    const fewer = result({ headroomPercent: 10, seenPoints: 220, nights: 30, clean: 30 })
    expect(betterTogether(now, [unclean, better, fewer, now], 95)).toEqual([better])
    const bad = result({ clean: 60 })
    const cleaner = result({ clean: 70, seenPoints: 150 })
    expect(betterTogether(bad, [cleaner, better], 95)).toEqual([better, cleaner])
    expect(betterTogether(bad, [result({ clean: 50, seenPoints: 300 })], 95)).toEqual([])
  })

  it('comes from the best seen of those that may be as clean as the cleanest', () => {
    const clean = result({ clean: 28, nights: 30, seenPoints: 100 })
    const seen = result({ clean: 27, nights: 30, seenPoints: 150 })
    const hopeless = result({ clean: 3, nights: 30, seenPoints: 300 })
    const finalists = finalistsOf([hopeless, seen, clean], 3)
    expect(finalists.slice(0, 2)).toEqual([seen, clean])
  })
})
