import { DateTime } from 'luxon'
import type { Destination, Show } from '../show'
import { wordsAt } from './wordChecks'
import { endOf, instantOf, startOf } from './instants'

/** One thing to do or to be there for, with reminders. */
export interface RunUpDate {
  /** The same for the same thing in the same show, so that a calendar updates what it has. */
  key: string
  title: string
  description: string
  start: Date
  end: Date
  /** Minutes before the start. */
  alarmsMinutes: number[]
}

const hour = 60

/** How long before the show each thing is due; common practice, no published source. */
const leadMinutes = { measure: 24 * hour, words: 24 * hour, keys: 2 * hour, check: 30 } as const

const lines = (items: readonly string[]): string => items.map((item) => `- ${item}`).join('\n')

function dateBefore(
  show: Show,
  minutesBefore: number,
  lastsMinutes: number,
  rest: Pick<RunUpDate, 'key' | 'title' | 'description' | 'alarmsMinutes'>,
): RunUpDate {
  const start = DateTime.fromJSDate(startOf(show)).minus({ minutes: minutesBefore })
  return {
    ...rest,
    start: start.toJSDate(),
    end: start.plus({ minutes: lastsMinutes }).toJSDate(),
  }
}

function startsAndEnds({ name, rules }: Destination): string {
  const start = rules.start === 'pressed on its page' ? 'start is pressed on its page' : rules.start
  const end =
    rules.end === 'pressed on its page' ? 'end is pressed on its page' : `ends ${rules.end}`
  return `${name}: ${start}; ${end}`
}

/** A destination that is announced for another time than the show begins. */
function announcements(show: Show, destinations: readonly Destination[]): RunUpDate[] {
  return destinations.flatMap((destination): RunUpDate[] => {
    const { scheduledAt, title } = wordsAt(show, destination)
    if (scheduledAt === show.startsAt) return []
    const start = instantOf(scheduledAt, show)
    return [
      {
        key: `announced-${destination.id}`,
        title: `${destination.name}: announced for now`,
        description: title,
        start,
        end: start,
        alarmsMinutes: [15],
      },
    ]
  })
}

/** What is due before a show and when, in the order of time; nothing in it is secret. */
export function runUpDates(show: Show): RunUpDate[] {
  const on = show.destinations.filter((destination) => destination.on)
  const perSession = on.filter(
    ({ rules, relayId }) => rules.key.life === 'per session' && relayId === null,
  )
  const dates: RunUpDate[] = [
    dateBefore(show, leadMinutes.measure, 15, {
      key: 'measure',
      title: `Measure the line for ${show.title}`,
      description: 'At the hour of the show, several times, by the cable that will be used.',
      alarmsMinutes: [10],
    }),
    dateBefore(show, leadMinutes.words - 15, 15, {
      key: 'words',
      title: `Titles and thumbnails of ${show.title}`,
      description: lines(on.map((each) => `${each.name}: ${wordsAt(show, each).title}`)),
      alarmsMinutes: [0],
    }),
    ...(perSession.length > 0
      ? [
          dateBefore(show, leadMinutes.keys, 15, {
            key: 'keys',
            title: `Paste fresh keys for ${show.title}`,
            description: lines(perSession.map(({ name }) => `${name}: new for this session`)),
            alarmsMinutes: [0],
          }),
        ]
      : []),
    dateBefore(show, leadMinutes.check, 20, {
      key: 'check',
      title: `Start sending ${show.title}, and see it arrive`,
      description: lines(on.map(startsAndEnds)),
      alarmsMinutes: [5],
    }),
    ...announcements(show, on),
    {
      key: 'show',
      title: show.title,
      description: show.words.description,
      start: startOf(show),
      end: endOf(show),
      alarmsMinutes: [24 * hour, hour, 15],
    },
  ]
  return dates.sort((a, b) => a.start.getTime() - b.start.getTime())
}
