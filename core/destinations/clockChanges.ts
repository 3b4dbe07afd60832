import { tzOffset } from '@date-fns/tz'
import type { Show } from '../show'
import { instantOf } from './instants'

const minuteMilliseconds = 60_000
const dayMilliseconds = 24 * 60 * minuteMilliseconds

/**
 * What the clocks do to the start of a show: whether they skip it, as in spring, or show it twice, as
 * in autumn. In words; null where they do neither.
 */
export function startClockNote({
  startsAt,
  timeZone,
}: Pick<Show, 'startsAt' | 'timeZone'>): string | null {
  const asUtc = Date.parse(`${startsAt}Z`)
  if (Number.isNaN(asUtc)) return null
  const instant = instantOf(startsAt, { timeZone }).getTime()
  const shownAt = (at: number): number => at + tzOffset(timeZone, new Date(at)) * minuteMilliseconds
  const clockOf = (at: number): string => new Date(at).toISOString().slice(11, 16)
  const place = timeZone.replaceAll('_', ' ')
  if (shownAt(instant) !== asUtc)
    return `The clocks skip ${clockOf(asUtc)} that day in ${place}; it would begin at ${clockOf(shownAt(instant))}.`
  const later = asUtc - tzOffset(timeZone, new Date(asUtc + dayMilliseconds)) * minuteMilliseconds
  if (later !== instant && shownAt(later) === asUtc)
    return `The clocks show ${clockOf(asUtc)} twice that day in ${place}; the first time is meant.`
  return null
}
