import { diskUseGigabytes } from '../fit'
import { agoInWords, type KeyRecord, keyState } from '../destinations'
import { rehearsalState } from '../rehearsal'
import { lineOf, type LineSample, type Show } from '../show'
import { gigabytesInWords, mbpsInWords, mediumNames } from '../words'
import { freshLineSeconds } from './leadTables'
import type { NightOrder } from './nightOrder'
import type { KnownFact } from './task'

/** What is known beside the document. */
export interface NightFacts {
  now: Date
  /** null until the server has said. */
  keys: readonly KeyRecord[] | null
  /** Which installation this is; null until the server has said. */
  installation: string | null
  /** Which machine the browser runs on that asks, as it remembers it; null where none asks. */
  browserMachine: string | null
  /** What is free where this installation keeps recordings; null until the server has said. */
  freeDiskGigabytes: number | null
}

/** How a task that is told by itself stands. */
export interface Known {
  isDone: boolean
  /** What is known, in a few words. */
  words: string
}

/** The newest measurement by the medium of the show. */
export function newestSample(show: Show): LineSample | undefined {
  const line = lineOf(show)
  return line.samples
    .filter(({ medium, uploadKbps }) => (line.medium ?? medium) === medium && uploadKbps > 0)
    .reduce<LineSample | undefined>(
      (newest, sample) =>
        newest && Date.parse(newest.measuredAt) >= Date.parse(sample.measuredAt) ? newest : sample,
      undefined,
    )
}

function lineKnown(show: Show, now: Date): Known {
  const sample = newestSample(show)
  if (!sample) return { isDone: false, words: 'never measured' }
  const measured = new Date(sample.measuredAt)
  const rate = `${mbpsInWords(sample.uploadKbps)} by ${mediumNames[sample.medium]}`
  const ageSeconds = (now.getTime() - measured.getTime()) / 1000
  return {
    isDone: ageSeconds <= freshLineSeconds,
    words: `${rate}, ${agoInWords(measured, now)}`,
  }
}

/** Of this computer what is free now is known; of another what its show says. */
function diskKnown(show: Show, facts: NightFacts): Known {
  const { computer } = show
  const needed = diskUseGigabytes(show)
  const isHere =
    facts.installation !== null && computer.measured?.installation === facts.installation
  const now = isHere ? facts.freeDiskGigabytes : null
  const free = now ?? computer.freeDiskGigabytes
  if (free === null)
    return { isDone: false, words: `${gigabytesInWords(needed)} needed, what is free is not known` }
  return {
    isDone: free >= needed,
    words: `${gigabytesInWords(free)} free${now === null ? '' : ' now'}, ${gigabytesInWords(needed)} needed`,
  }
}

function encodersKnown({ computer }: Show, { installation, browserMachine }: NightFacts): Known {
  const { measured } = computer
  if (!measured) return { isDone: false, words: 'not measured' }
  if (![installation, browserMachine].includes(measured.installation))
    return { isDone: false, words: 'measured on another computer' }
  return { isDone: true, words: `measured with ${measured.program}` }
}

function rehearsedKnown(show: Show): Known {
  const state = rehearsalState(show)
  if (state.name === 'rehearsed')
    return { isDone: true, words: `clean on ${state.ofHundred} of 100 nights` }
  return {
    isDone: false,
    words: state.name === 'not yet' ? 'not rehearsed' : 'changed since it was rehearsed',
  }
}

function keyKnown(show: Show, destinationId: string | null, facts: NightFacts): Known {
  const destination = show.destinations.find(({ id }) => id === destinationId)
  if (!destination || facts.keys === null) return { isDone: false, words: '' }
  const record = facts.keys.find((each) => each.destinationId === destinationId)
  const { state, words } = keyState(destination, record, show, facts.now)
  return { isDone: state === 'present' || state === 'none needed', words }
}

/** What is known of each task that is told by itself, by the task's identifier. */
export function knownTasks(
  show: Show,
  { tasks }: Pick<NightOrder, 'tasks'>,
  facts: NightFacts,
): Map<string, Known> {
  const of: Record<KnownFact, (destinationId: string | null) => Known> = {
    'line measured': () => lineKnown(show, facts.now),
    'disk free': () => diskKnown(show, facts),
    'encoders measured': () => encodersKnown(show, facts),
    rehearsed: () => rehearsedKnown(show),
    'key present': (destinationId) => keyKnown(show, destinationId, facts),
  }
  return new Map(
    tasks.flatMap(({ id, told, destinationId }) =>
      told === 'by hand' ? [] : [[id, of[told](destinationId)] as const],
    ),
  )
}

/** The tasks that are known to be done, whoever ticked them. */
export const knownDone = (known: ReadonlyMap<string, Known>): Set<string> =>
  new Set([...known].filter(([, { isDone }]) => isDone).map(([id]) => id))
