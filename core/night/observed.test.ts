import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { SendHealth } from './health'
import { carriedNowKbps, lineCarried, noLineObserved, observeLine } from './observedLine'
import { nothingObserved, observeSend } from './observedSend'

type Seen = Pick<SendHealth, 'stage' | 'behindSeconds' | 'stillSeconds'>
const going: Seen = { stage: 'sending', behindSeconds: 0, stillSeconds: 0 }
const after = (seen: readonly Seen[]) =>
  seen.reduce((observed, each) => observeSend(observed, each, 1), nothingObserved)
const times = (count: number, seen: Seen): Seen[] => Array.from({ length: count }, () => seen)

describe('what viewers had of a send', () => {
  it('stands still where it is behind by more than a player holds, as in a simulated night', () => {
    const seen = [...times(5, going), ...times(3, { ...going, behindSeconds: 4.5 }), going]
    expect(after(seen)).toMatchObject({ freezes: 1, frozenSeconds: 3, awaySeconds: 0 })
    expect(after([...seen, ...seen])).toMatchObject({ freezes: 2, frozenSeconds: 6 })
    expect(after(times(9, { ...going, behindSeconds: 4 })).freezes).toBe(0)
  })

  it('stands still where nothing goes out, however early what waits is dropped', () => {
    // A line that stands still for 18 s under a sender that drops what waits for longer than 2.5 s.
    const stalled = Array.from({ length: 18 }, (_, second) => ({
      ...going,
      behindSeconds: Math.min(2.5, second),
      stillSeconds: second,
    }))
    expect(after([going, ...stalled, going])).toMatchObject({ freezes: 1, frozenSeconds: 13 })
  })

  it('goes on from the player’s buffer where it comes back in time, and stands still where not', () => {
    const away: Seen = { ...going, stage: 'away' }
    expect(after([going, ...times(3, away), going])).toMatchObject({ freezes: 0, awaySeconds: 3 })
    expect(after([going, ...times(10, away), going])).toMatchObject({
      ...{ freezes: 1, frozenSeconds: 6, awaySeconds: 10, isFrozen: false },
    })
  })

  it('counts nothing before it began, nor after it ended', () => {
    const before = times(20, { ...going, stage: 'connecting' })
    expect(after(before)).toEqual(nothingObserved)
    const ended = [going, ...times(20, { ...going, stage: 'ended' })]
    expect(after(ended)).toMatchObject({ freezes: 0, awaySeconds: 0 })
  })
})

const send = (destinationId: string, kbps: number, behindSeconds = 0) => ({
  ...{ destinationId, kbps, behindSeconds },
  stage: 'sending' as const,
})
type Sends = ReturnType<typeof send>[]
const line = (steps: readonly Sends[]) =>
  lineCarried(steps.reduce((observed, sends) => observeLine(observed, sends, 1), noLineObserved))
const well: Sends = [send('a', 4000), send('b', 3000)]
const short: Sends = [send('a', 3000, 2), send('b', 2000, 3)]
const repeated = (count: number, sends: Sends): Sends[] =>
  Array.from({ length: count }, () => sends)

describe('what the line carried', () => {
  it('is the mean of all sends together while something was sent', () => {
    const nothing: Sends[] = repeated(60, [])
    expect(line([...nothing, ...repeated(10, well), ...nothing])).toEqual({
      ...{ seconds: 10, meanKbps: 7000, shortages: [] },
    })
    expect(line(nothing)).toEqual({ seconds: 0, meanKbps: 0, shortages: [] })
    expect(carriedNowKbps(well)).toBe(7000)
    expect(carriedNowKbps([])).toBeNull()
  })

  it('is known for what it could where sends to two places were behind for ten seconds', () => {
    const { shortages } = line([
      ...repeated(30, well),
      ...repeated(9, short),
      ...repeated(20, well),
      ...repeated(15, short),
      ...repeated(5, well),
    ])
    expect(shortages).toEqual([{ fromSeconds: 59, seconds: 15, carriedKbps: 5000 }])
    expect(line(repeated(12, short)).shortages).toHaveLength(1)
  })

  it('is not, where one place alone is behind, with however many renditions', () => {
    const ladder = [send('a', 900, 5), send('a', 300, 5), send('b', 3000)]
    expect(line(repeated(30, ladder)).shortages).toEqual([])
  })

  it('is short too where SRT loses on it, for what got through', () => {
    const overSrt = (id: string, kbps: number) => ({ ...send(id, kbps), losesOnLine: true })
    const { shortages } = line(repeated(20, [overSrt('a', 900), overSrt('b', 600)]))
    expect(shortages).toEqual([{ fromSeconds: 0, seconds: 20, carriedKbps: 1500 }])
  })

  it('is not known while something goes over SRT, where nobody tells what the line lost', () => {
    const overSrt = { ...send('s', 320, 4), isLossUnknown: true }
    expect(carriedNowKbps([...well, overSrt])).toBeNull()
    // Neither a rate nor a shortage is offered to the next show of it.
    const observed = line([...repeated(40, [...short, overSrt])])
    expect(observed).toEqual({ seconds: 0, meanKbps: 0, shortages: [] })
  })

  it('never was carried more than was sent, nor longer than it was looked at', () => {
    const seen = fc.record({
      destinationId: fc.constantFrom('a', 'b', 'c'),
      kbps: fc.integer({ min: 0, max: 9000 }),
      behindSeconds: fc.constantFrom(0, 0.5, 2, 9),
      stage: fc.constantFrom('sending' as const, 'away' as const, 'ended' as const),
    })
    fc.assert(
      fc.property(fc.array(fc.array(seen, { maxLength: 4 }), { maxLength: 60 }), (steps) => {
        const { seconds, shortages } = lineCarried(
          steps.reduce((observed, sends) => observeLine(observed, sends, 1), noLineObserved),
        )
        const most = Math.max(0, ...steps.map((sends) => carriedNowKbps(sends) ?? 0))
        for (const shortage of shortages) {
          expect(shortage.carriedKbps).toBeLessThanOrEqual(most + 1e-6)
          expect(shortage.fromSeconds + shortage.seconds).toBeLessThanOrEqual(steps.length)
        }
        const shortFor = shortages.reduce((sum, each) => sum + each.seconds, 0)
        expect(shortFor).toBeLessThanOrEqual(seconds)
      }),
    )
  })
})
