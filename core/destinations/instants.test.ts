import fc from 'fast-check'
import { DateTime } from 'luxon'
import { describe, expect, it } from 'vitest'
import { endOf, instantOf } from './instants'
import { runsOf } from '../../tests/tier'

const zones = ['UTC', 'Europe/London', 'America/New_York', 'Asia/Kolkata', 'Australia/Lord_Howe']

describe('the instant of a wall-clock time', () => {
  it('is what a general date library makes of it, wherever there is just one', () => {
    const minutes = fc.integer({ min: 0, max: 3 * 366 * 24 * 60 })
    fc.assert(
      fc.property(fc.constantFrom(...zones), minutes, (timeZone, minute) => {
        const wallClock = DateTime.utc(2026)
          .plus({ minutes: minute })
          .toFormat("yyyy-MM-dd'T'HH:mm")
        const expected = DateTime.fromISO(wallClock, { zone: timeZone })
        const isSkipped = expected.toFormat("yyyy-MM-dd'T'HH:mm") !== wallClock
        const found = instantOf(wallClock, { timeZone })
        if (isSkipped || expected.getPossibleOffsets().length > 1) return
        expect(found.toISOString()).toBe(expected.toUTC().toISO())
      }),
      { numRuns: runsOf(2000) },
    )
  })

  it('that the clocks skip counts on from before, and of two that are alike is one of them', () => {
    // The clocks of London go from 1:00 to 2:00 on 29 March 2026, and from 2:00 to 1:00 on 25 October.
    const at = (wallClock: string): string =>
      instantOf(wallClock, { timeZone: 'Europe/London' }).toISOString()
    expect(at('2026-03-29T01:30')).toBe('2026-03-29T01:30:00.000Z')
    expect(['2026-10-25T00:30:00.000Z', '2026-10-25T01:30:00.000Z']).toContain(
      at('2026-10-25T01:30'),
    )
  })

  it('and a length after it is when a show ends, over a change of the clocks too', () => {
    const show = { startsAt: '2026-03-29T00:30', timeZone: 'Europe/London', durationMinutes: 120 }
    expect(endOf(show).toISOString()).toBe('2026-03-29T02:30:00.000Z')
  })
})
