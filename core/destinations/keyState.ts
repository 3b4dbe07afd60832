import type { Destination, Show } from '../show'
import { agoInWords, endOf } from './instants'

/** What is known of a stored stream key without the key itself. Times are ISO 8601 in UTC. */
export interface KeyRecord {
  destinationId: string
  storedAt: string
  /** Whether it can be opened with this installation's key file. */
  readable: 'yes' | 'other key file' | 'damaged'
  /** Other destinations of the show that hold the same key. */
  sameAs: string[]
  /** Whether the key that was there before is the same: last session's, pasted once more. */
  isAsBefore: boolean
}

export interface KeyState {
  state: 'none needed' | 'present' | 'missing' | 'stale' | 'unreadable'
  /** A few words for a card: its age and life, never the key. */
  words: string
}

const millisecondsPerHour = 3_600_000

/** When a stored key stops being good; null for one that lasts. */
function endOfLife(
  record: KeyRecord,
  { rules }: Pick<Destination, 'rules'>,
  show: Pick<Show, 'startsAt' | 'timeZone' | 'durationMinutes'>,
): Date | null {
  if (rules.key.life !== 'per session') return null
  const stored = new Date(record.storedAt).getTime()
  const ends: number[] = []
  if (rules.key.hours !== null) ends.push(stored + rules.key.hours * millisecondsPerHour)
  const showEnd = endOf(show).getTime()
  // One that was pasted after the show had ended is for another session.
  if (stored < showEnd) ends.push(showEnd)
  return ends.length === 0 ? null : new Date(Math.min(...ends))
}

/** Whether a destination has the key it needs, and whether that is still good at this moment. */
export function keyState(
  destination: Pick<Destination, 'rules' | 'connection' | 'relayId' | 'streamName'>,
  record: KeyRecord | undefined,
  show: Pick<Show, 'startsAt' | 'timeZone' | 'durationMinutes'>,
  now: Date,
): KeyState {
  const { life } = destination.rules.key
  const pastes = destination.connection === 'address and key' || destination.connection === 'relay'
  if (life === 'no key' || !pastes) return { state: 'none needed', words: 'nothing to paste' }
  if (destination.relayId !== null)
    return { state: 'none needed', words: 'its key is with the relay' }
  if (!record && destination.streamName !== '')
    return { state: 'none needed', words: 'known by its stream name' }
  if (!record) return { state: 'missing', words: `no key yet, ${life}` }
  if (record.readable === 'other key file')
    return { state: 'unreadable', words: 'sealed under another key file: paste it again' }
  if (record.readable === 'damaged')
    return { state: 'unreadable', words: 'damaged in the store: paste it again' }
  const age = agoInWords(new Date(record.storedAt), now)
  const end = endOfLife(record, destination, show)
  if (record.isAsBefore && life === 'per session')
    return { state: 'stale', words: 'the last session’s key again: paste the new one' }
  if (end !== null && end <= now)
    return { state: 'stale', words: `stale, pasted ${age}: paste the new one` }
  return { state: 'present', words: `${life} key, pasted ${age}` }
}
