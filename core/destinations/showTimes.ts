import { DateTime } from 'luxon'
import type { Show } from '../show'

/** An instant as a person reads it where the show is, as in "12 Dec 2026, 21:00". */
export const instantInWords = (instant: Date, { timeZone }: Pick<Show, 'timeZone'>): string =>
  DateTime.fromJSDate(instant, { zone: timeZone }).setLocale('en-GB').toFormat('d LLL yyyy, HH:mm')
