import { DateTime } from 'luxon'
import { describe, expect, it } from 'vitest'
import { wallClockInWords } from './times'

describe('a wall-clock time in words', () => {
  it('is what a general date library writes of it, on every day of a year', () => {
    for (let day = 0; day < 365; day += 1) {
      const time = DateTime.utc(2026, 1, 1, 20, 5).plus({ days: day, minutes: 7 * day })
      const wallClock = time.toFormat("yyyy-MM-dd'T'HH:mm")
      expect(wallClockInWords(wallClock, 'short')).toBe(
        time.setLocale('en-GB').toFormat('ccc d MMM, HH:mm'),
      )
      expect(wallClockInWords(wallClock, 'long')).toBe(
        time.setLocale('en-GB').toFormat('cccc d MMMM yyyy, HH:mm'),
      )
    }
  })

  it('is left as it is where it is no time', () => {
    expect(wallClockInWords('tomorrow', 'short')).toBe('tomorrow')
  })
})
