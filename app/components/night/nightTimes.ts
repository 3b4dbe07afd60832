import { durationInWords } from '@green-mantle/core/words'
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

/** With the second, as the log has it. */
export const secondOfDay = (iso: string, timeZone: string): string =>
  DateTime.fromISO(iso, { zone: timeZone }).toFormat('HH:mm:ss')

/** The same where something was said to have happened. */
export const saidAt = (iso: string | null, timeZone: string): string =>
  iso === null ? 'not said' : secondOfDay(iso, timeZone)

/** 190 → "3 min late"; within a minute "in time". */
export const inTimeInWords = (lateSeconds: number): string =>
  Math.abs(lateSeconds) < 60
    ? 'in time'
    : `${durationInWords(Math.abs(lateSeconds))} ${lateSeconds > 0 ? 'late' : 'early'}`
