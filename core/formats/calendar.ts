import ical, { ICalAlarmType } from 'ical-generator'
import { runUpDates } from '../destinations'
import type { Show } from '../show'

export const calendarExtension = '.ics'
const secondsPerMinute = 60

/**
 * What is due before a show and the show itself, as iCalendar (RFC 5545) with alarms. Instants are in
 * UTC, so that every calendar shows them in its own zone. `writtenAt` is the moment of writing.
 */
export function writeCalendar(show: Show, showId: string, writtenAt: Date): string {
  const calendar = ical({
    name: show.title,
    prodId: { company: 'Green Mantle', product: 'Green Mantle', language: 'EN' },
  })
  for (const date of runUpDates(show)) {
    const event = calendar.createEvent({
      id: `${date.key}-${showId}@green-mantle`,
      stamp: writtenAt,
      start: date.start,
      end: date.end,
      summary: date.title,
      description: date.description,
    })
    for (const minutes of date.alarmsMinutes)
      event.createAlarm({
        type: ICalAlarmType.display,
        triggerBefore: minutes * secondsPerMinute,
        description: date.title,
      })
  }
  return calendar.toString()
}
