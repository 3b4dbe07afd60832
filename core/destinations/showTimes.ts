import { DateTime } from 'luxon'
import type { Show } from '../show'

type Timed = Pick<Show, 'startsAt' | 'timeZone' | 'durationMinutes'>

/** The instant that a wall-clock time in the show's time zone names. */
export const instantOf = (wallClock: string, { timeZone }: Pick<Show, 'timeZone'>): Date =>
  DateTime.fromISO(wallClock, { zone: timeZone }).toJSDate()

/** When a show begins. */
export const startOf = (show: Timed): Date => instantOf(show.startsAt, show)

/** When a show is planned to end. */
export const endOf = (show: Timed): Date =>
  DateTime.fromJSDate(startOf(show)).plus({ minutes: show.durationMinutes }).toJSDate()

/** An instant as a person reads it where the show is, as in "12 Dec 2026, 21:00". */
export const instantInWords = (instant: Date, { timeZone }: Pick<Show, 'timeZone'>): string =>
  DateTime.fromJSDate(instant, { zone: timeZone }).setLocale('en-GB').toFormat('d LLL yyyy, HH:mm')

/** How long ago an instant is, in the largest unit that says something: "3 days ago". */
export function agoInWords(instant: Date, now: Date): string {
  const minutes = Math.max(0, Math.floor((now.getTime() - instant.getTime()) / 60_000))
  const said = (count: number, unit: string): string =>
    `${count} ${unit}${count === 1 ? '' : 's'} ago`
  if (minutes < 1) return 'just now'
  if (minutes < 60) return said(minutes, 'minute')
  if (minutes < 48 * 60) return said(Math.floor(minutes / 60), 'hour')
  return said(Math.floor(minutes / (24 * 60)), 'day')
}
