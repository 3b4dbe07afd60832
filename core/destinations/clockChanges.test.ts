import { DateTime } from 'luxon'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { startClockNote } from './clockChanges'
import { runsOf } from '../../tests/tier'

// European summer time: Directive 2000/84/EC, last Sundays of March and October at 01:00 UTC.
describe('a start when the clocks change', () => {
  const london = { timeZone: 'Europe/London' }

  it('is said where they skip it, with when it would begin', () => {
    expect(startClockNote({ ...london, startsAt: '2027-03-28T01:30' })).toBe(
      'The clocks skip 01:30 that day in Europe/London; it would begin at 02:30.',
    )
  })

  it('is said where they show it twice', () => {
    expect(startClockNote({ ...london, startsAt: '2026-10-25T01:30' })).toBe(
      'The clocks show 01:30 twice that day in Europe/London; the first time is meant.',
    )
  })

  it('is said of no other time, right beside the change', () => {
    for (const startsAt of [
      '2027-03-28T00:59',
      '2027-03-28T02:00',
      '2026-10-25T00:59',
      '2026-10-25T02:00',
    ])
      expect(startClockNote({ ...london, startsAt })).toBeNull()
    expect(startClockNote({ timeZone: 'UTC', startsAt: '2027-03-28T01:30' })).toBeNull()
  })

  it('agrees with a general library (luxon) on which times there are', () => {
    const zones = fc.constantFrom(
      'Europe/London',
      'America/New_York',
      'Australia/Lord_Howe',
      'Asia/Tokyo',
    )
    const minutes = fc.integer({ min: 0, max: 2 * 365 * 24 * 4 })
    fc.assert(
      fc.property(zones, minutes, (timeZone, quarter) => {
        const startsAt = new Date(Date.UTC(2026, 0, 1) + quarter * 15 * 60_000)
          .toISOString()
          .slice(0, 16)
        const read = DateTime.fromISO(startsAt, { zone: timeZone })
        const isThere = read.toFormat("yyyy-MM-dd'T'HH:mm") === startsAt
        expect(startClockNote({ timeZone, startsAt })?.includes('skip') ?? false).toBe(!isThere)
      }),
      { numRuns: runsOf(2000) },
    )
  })
})
