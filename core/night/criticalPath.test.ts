import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { type Activity, criticalPath, inOrder } from './criticalPath'

const activity = (id: string, durationSeconds: number, ...waitsFor: string[]): Activity => ({
  id,
  durationSeconds,
  waitsFor: waitsFor.map((before) => ({ id: before, lagSeconds: 0 })),
})

/**
 * The building of a plant in fourteen activities, the worked example of the chapter on PERT and CPM in
 * Hillier and Lieberman, Introduction to Operations Research; durations (weeks), order and answer were
 * written down from memory: 44 weeks along A-B-C-E-F-J-L-N.
 */
const plant = [
  activity('A', 2),
  activity('B', 4, 'A'),
  activity('C', 10, 'B'),
  activity('D', 6, 'C'),
  activity('E', 4, 'C'),
  activity('F', 5, 'E'),
  activity('G', 7, 'D'),
  activity('H', 9, 'E', 'G'),
  activity('I', 7, 'C'),
  activity('J', 8, 'F', 'I'),
  activity('K', 4, 'J'),
  activity('L', 5, 'J'),
  activity('M', 2, 'H'),
  activity('N', 6, 'K', 'L'),
]

/** Activities that wait for earlier ones only, shuffled. */
const networks = fc
  .array(
    fc.record({
      durationSeconds: fc.integer({ min: 0, max: 50 }),
      waits: fc.array(
        fc.record({
          back: fc.integer({ min: 1, max: 8 }),
          lagSeconds: fc.integer({ min: 0, max: 9 }),
        }),
        { maxLength: 3 },
      ),
    }),
    { minLength: 1, maxLength: 25 },
  )
  .chain((drafts) => {
    const made = drafts.map(({ durationSeconds, waits }, index): Activity => ({
      id: `a${index}`,
      durationSeconds,
      waitsFor: waits
        .filter(({ back }) => back <= index)
        .map(({ back, lagSeconds }) => ({ id: `a${index - back}`, lagSeconds })),
    }))
    return fc.shuffledSubarray(made, { minLength: made.length, maxLength: made.length })
  })

describe('the critical path', () => {
  it('of a published example is as published', () => {
    const { lengthSeconds, chain, times } = criticalPath(plant)
    expect(lengthSeconds).toBe(44)
    expect(chain.join('')).toBe('ABCEFJLN')
    const slack = Object.fromEntries(plant.map(({ id }) => [id, times.get(id)?.slackSeconds]))
    expect(slack).toEqual({
      ...{ A: 0, B: 0, C: 0, D: 4, E: 0, F: 0, G: 4, H: 4, I: 2, J: 0, K: 1, L: 0, M: 4, N: 0 },
    })
  })

  it('counts what passes between two activities', () => {
    const lagging = [
      activity('send', 30),
      { id: 'seen', durationSeconds: 45, waitsFor: [{ id: 'send', lagSeconds: 6 }] },
    ]
    expect(criticalPath(lagging).times.get('seen')?.earliestStartSeconds).toBe(36)
    expect(criticalPath(lagging).lengthSeconds).toBe(81)
  })

  it('is as long as its chain, which has no slack, and no activity can begin before it may', () => {
    fc.assert(
      fc.property(networks, (activities) => {
        const { lengthSeconds, chain, times } = criticalPath(activities)
        const byId = new Map(activities.map((each) => [each.id, each]))
        let at = 0
        chain.forEach((id, index) => {
          const lags = byId
            .get(id)!
            .waitsFor.filter((waiting) => waiting.id === chain[index - 1])
            .map(({ lagSeconds }) => lagSeconds)
          at += index === 0 ? 0 : Math.max(...lags)
          expect(times.get(id)?.slackSeconds).toBe(0)
          expect(times.get(id)?.earliestStartSeconds).toBe(at)
          at += byId.get(id)!.durationSeconds
        })
        expect(at).toBe(lengthSeconds)
        for (const { id, waitsFor } of activities) {
          const own = times.get(id)!
          expect(own.slackSeconds).toBeGreaterThanOrEqual(0)
          for (const { id: before, lagSeconds } of waitsFor) {
            const earlier = times.get(before)!
            const { durationSeconds } = byId.get(before)!
            expect(own.earliestStartSeconds).toBeGreaterThanOrEqual(
              earlier.earliestStartSeconds + durationSeconds + lagSeconds,
            )
            expect(own.latestStartSeconds).toBeGreaterThanOrEqual(
              earlier.latestStartSeconds + durationSeconds + lagSeconds,
            )
          }
        }
      }),
    )
  })
})

describe('the order of activities', () => {
  it('puts each after what it waits for, and keeps the order given where it may', () => {
    fc.assert(
      fc.property(networks, (activities) => {
        const ordered = inOrder(activities).map(({ id }) => id)
        expect([...ordered].sort()).toEqual(activities.map(({ id }) => id).sort())
        for (const { id, waitsFor } of activities)
          for (const waiting of waitsFor)
            expect(ordered.indexOf(waiting.id)).toBeLessThan(ordered.indexOf(id))
      }),
    )
    expect(inOrder([activity('b', 1), activity('a', 1)]).map(({ id }) => id)).toEqual(['b', 'a'])
  })

  it('ends where activities wait for each other in a circle, for themselves, or for nothing there', () => {
    const circle = [
      activity('a', 5, 'c'),
      activity('b', 5, 'a'),
      activity('c', 5, 'b', 'c', 'gone'),
    ]
    expect(inOrder(circle)).toHaveLength(3)
    const { lengthSeconds, chain } = criticalPath(circle)
    expect(lengthSeconds).toBe(15)
    expect(chain).toHaveLength(3)
  })

  it('is no deep one for a long chain', () => {
    const chain = Array.from({ length: 20_000 }, (_, index) =>
      activity(`a${index}`, 1, ...(index > 0 ? [`a${index - 1}`] : [])),
    )
    expect(criticalPath(chain.toReversed()).lengthSeconds).toBe(20_000)
  })
})
