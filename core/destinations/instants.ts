import { tzOffset } from '@date-fns/tz'
import type { Show } from '../show'

const minuteMilliseconds = 60_000

type Timed = Pick<Show, 'startsAt' | 'timeZone' | 'durationMinutes'>

/**
 * The instant that a wall-clock time in the show's time zone names. One that the clocks skip in
 * spring counts on from before they do.
 */
export function instantOf(wallClock: string, { timeZone }: Pick<Show, 'timeZone'>): Date {
  const asUtc = Date.parse(`${wallClock}Z`)
  const at = (offsetMinutes: number): number => asUtc - offsetMinutes * minuteMilliseconds
  const offsetAt = (instant: number): number => tzOffset(timeZone, new Date(instant))
  const before = offsetAt(asUtc - 24 * 60 * minuteMilliseconds)
  const after = offsetAt(at(before))
  return new Date(at(offsetAt(at(after)) === after ? after : before))
}

/** When a show begins. */
export const startOf = (show: Timed): Date => instantOf(show.startsAt, show)

/** When a show is planned to end. */
export const endOf = (show: Timed): Date =>
  new Date(startOf(show).getTime() + show.durationMinutes * minuteMilliseconds)

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
