import { DateTime } from 'luxon'
import type { Show } from '../show'

/**
 * The next show of a row: at another time, everything that was arranged kept. What is announced for a
 * time of its own moves by as much. What was only true of this night (rehearsed, looked through) is
 * not taken along; keys are no part of a show.
 */
export function nextShow(show: Show, startsAt: string): Show {
  const by = DateTime.fromISO(startsAt, { zone: 'utc' }).diff(
    DateTime.fromISO(show.startsAt, { zone: 'utc' }),
  )
  const moved = (wallClock: string): string =>
    DateTime.fromISO(wallClock, { zone: 'utc' }).plus(by).toFormat("yyyy-MM-dd'T'HH:mm")
  return {
    ...show,
    startsAt,
    destinations: show.destinations.map((destination) => ({
      ...destination,
      words: {
        ...destination.words,
        scheduledAt:
          destination.words.scheduledAt === null ? null : moved(destination.words.scheduledAt),
      },
    })),
    rehearsal: { ...show.rehearsal, last: null },
    runSheet: { ...show.runSheet, seen: null },
  }
}

/** The same wall-clock time so many days later. */
export const daysLater = (startsAt: string, days: number): string =>
  DateTime.fromISO(startsAt, { zone: 'utc' }).plus({ days }).toFormat("yyyy-MM-dd'T'HH:mm")
