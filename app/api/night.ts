import type { NewNightEvent, NightEvent, OrderedTask } from '@green-mantle/core/night'
import type { Show } from '@green-mantle/core/show'
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

/** Everything that was kept of a show's nights, the earlier ones too, first to last. */
export async function fetchWholeLog(showId: string): Promise<NightEvent[]> {
  const all: NightEvent[] = []
  for (;;) {
    const { events, last } = await fetchNight(showId, all.at(-1)?.sequence ?? 0)
    all.push(...events)
    if (events.length === 0 || (all.at(-1)?.sequence ?? 0) >= last) return all
  }
}

/** The show as it stood when the entry of that number put a night away; null where it was not kept. */
export async function fetchNightShow(showId: string, sequence: number): Promise<Show | null> {
  const answer = await ask(`/shows/${showId}/night/earlier/${sequence}`)
  return ((await answer.json()) as { show: Show | null }).show
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

/** What a phone needs of the order of the night; nothing else of the show is in it. */
export interface NightSheet {
  title: string
  timeZone: string
  /** ISO 8601. */
  startsAt: string
  people: string[]
  scenes: { id: string; name: string }[]
  tasks: OrderedTask[]
  /** The tasks that are known to be done. */
  known: string[]
}
export async function fetchNightSheet(showId: string): Promise<NightSheet> {
  return (await ask(`/shows/${showId}/night/sheet`)).json() as Promise<NightSheet>
}

export interface NightLink {
  path: string
  endsAt: string
  /** Where a phone reaches this installation; empty while it is bound to its own machine alone. */
  hosts: string[]
}
export async function makeNightLink(showId: string): Promise<NightLink> {
  return (await ask(`/shows/${showId}/night/link`, { method: 'POST' })).json() as Promise<NightLink>
}
export async function countNightLinks(
  showId: string,
): Promise<{ count: number; endsAt: string | null }> {
  const answer = await ask(`/shows/${showId}/night/link`)
  return answer.json() as Promise<{ count: number; endsAt: string | null }>
}
export async function takeNightLinksBack(showId: string): Promise<void> {
  await ask(`/shows/${showId}/night/link`, { method: 'DELETE' })
}
