import { clockFace, durationInWords } from '@green-mantle/core/words'
import { DateTime } from 'luxon'

export { clockFace, signedClockFace } from '@green-mantle/core/words'

const inZone = (instant: Date, zone: string): DateTime =>
  DateTime.fromJSDate(instant, { zone }).setLocale('en-GB')

/** "21:05", where the show is. */
export const timeOfDay = (instant: Date, timeZone: string): string =>
  inZone(instant, timeZone).toFormat('HH:mm')

/** "12 Dec" where an instant is of another day than `day`; else nothing. */
export const otherDay = (instant: Date, timeZone: string, day: Date): string =>
  inZone(instant, timeZone).hasSame(inZone(day, timeZone), 'day')
    ? ''
    : inZone(instant, timeZone).toFormat('d LLL')

/** "21:05", or "12 Dec 21:05" where that is another day than `day`. */
export const dayAndTime = (instant: Date, timeZone: string, day: Date): string =>
  [otherDay(instant, timeZone, day), timeOfDay(instant, timeZone)].filter(Boolean).join(' ')

/** With the second, as the log has it. */
export const secondOfDay = (iso: string, timeZone: string): string =>
  DateTime.fromISO(iso, { zone: timeZone }).toFormat('HH:mm:ss')

/** The same where something was said to have happened. */
export const saidAt = (iso: string | null, timeZone: string): string =>
  iso === null ? 'not said' : secondOfDay(iso, timeZone)

const farSeconds = 100 * 3600

/** A clock to or from an instant; "10 days" where it is that far ahead. */
export const clockOrDays = (seconds: number): string =>
  seconds < -farSeconds ? `${Math.floor(-seconds / 86_400)} days` : clockFace(seconds)

/** 190 → "3 min late"; within a minute "in time". */
export const inTimeInWords = (lateSeconds: number): string =>
  Math.abs(lateSeconds) < 60
    ? 'in time'
    : `${durationInWords(Math.abs(lateSeconds))} ${lateSeconds > 0 ? 'late' : 'early'}`
