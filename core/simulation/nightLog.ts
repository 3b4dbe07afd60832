import type { NightEvent, NightOutcome } from './outcome'

/** A line of the log of a night. */
export interface LogLine {
  atSeconds: number
  /** Whom it is about. */
  who: string
  words: string
  /** Whose fault it is, in so many words; empty where nobody's. */
  blame: string
  isLoss: boolean
}

const blames = {
  line: 'The line, not the computer.',
  computer: 'The computer, not the line.',
  destination: 'The destination, not the line.',
} as const

const whole = new Intl.NumberFormat('en-GB', { maximumFractionDigits: 0 })

function wordsOf({ kind, value }: NightEvent): string {
  switch (kind) {
    case 'lowers':
      return 'lowers its bitrate.'
    case 'full again':
      return `is at its full bitrate again; it had gone down to ${Math.round(100 * value)} %.`
    case 'drops':
      return 'waits too long and begins to drop frames.'
    case 'sends again':
      return `sends again, ${whole.format(value)} frames lost.`
    case 'gone':
      return 'loses its connection.'
    case 'back':
      return `is back at a keyframe, ${whole.format(value)} frames lost.`
    case 'given up':
      return `gives up after ${whole.format(value)} tries.`
    case 'start again':
      return `has to be started again on its page; that takes some ${whole.format(value)} s.`
    case 'overloaded':
      return `is asked for ${Math.round(100 * value)} % and falls behind; frames are skipped.`
    case 'keeps up again':
      return 'keeps up again.'
    case 'disk full':
      return 'stops: the disk is full.'
  }
}

const losing: readonly NightEvent['kind'][] = [
  'drops',
  'gone',
  'given up',
  'overloaded',
  'disk full',
]

/** What happened in a night, in words, in order of time. */
export function logOf({ events, sends }: NightOutcome): LogLine[] {
  const names = new Map(sends.map(({ key, name }) => [key, name]))
  return events.map((event) => ({
    atSeconds: event.atSeconds,
    who: names.get(event.who) ?? event.who,
    words: wordsOf(event),
    blame: event.cause !== null && losing.includes(event.kind) ? blames[event.cause] : '',
    isLoss: losing.includes(event.kind),
  }))
}
