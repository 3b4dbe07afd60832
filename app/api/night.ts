import type { NewNightEvent, NightEvent } from '@green-mantle/core/night'
import { ask, withJson } from './ask'

interface NightPart {
  events: NightEvent[]
  /** The number of the last entry there is. */
  last: number
  /** What the server's clock said, ISO 8601. */
  now: string
}

export async function fetchNight(showId: string, after: number): Promise<NightPart> {
  const answer = await ask(`/shows/${showId}/night?after=${after}`)
  return answer.json() as Promise<NightPart>
}

/** Resolves when they are kept; what was sent before is kept once. */
export async function keepNightEvents(
  showId: string,
  events: readonly NewNightEvent[],
): Promise<void> {
  await ask(`/shows/${showId}/night/events`, withJson('POST', events))
}

/** The log as it grows after the entry of that number. */
export const nightStream = (showId: string, after: number): EventSource =>
  new EventSource(`/api/shows/${showId}/night/stream?after=${after}`)
