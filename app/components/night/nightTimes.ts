import { DateTime } from 'luxon'

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

/** "0:07:48", without a sign. */
export function clockFace(seconds: number): string {
  const whole = Math.floor(Math.abs(seconds))
  const two = (value: number): string => String(value).padStart(2, '0')
  return `${Math.floor(whole / 3600)}:${two(Math.floor(whole / 60) % 60)}:${two(whole % 60)}`
}
