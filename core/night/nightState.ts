import type { Happening, NightEvent, Trouble } from './nightEvents'

export interface Tick {
  at: string
  who: string
  knowingly: boolean
}

/** A named moment of the show, or a stretch of it. Times are ISO 8601. */
export interface Mark {
  id: string
  name: string
  from: string
  until: string
  sceneId: string | null
  who: string
}

/** What the log of a night comes to. */
export interface NightState {
  begunAt: string | null
  overAt: string | null
  ticks: ReadonlyMap<string, Tick>
  marks: readonly Mark[]
  sceneId: string | null
  /** What is wrong with which destination now, and since when. */
  troubles: ReadonlyMap<string, { trouble: Trouble; at: string }>
  /** What was under way when the server ended without a word; null where nothing was, or it was gone on with and ended since. */
  interrupted: Interrupted | null
  /** The events of this night, first to last. */
  events: readonly NightEvent[]
}

export type Interrupted = Extract<Happening, { kind: 'interrupted' }>

export const noNight: NightState = {
  begunAt: null,
  overAt: null,
  ticks: new Map(),
  marks: [],
  sceneId: null,
  troubles: new Map(),
  interrupted: null,
  events: [],
}

const before = (at: string, seconds: number): string =>
  new Date(Date.parse(at) - seconds * 1000).toISOString()

/** A state that is being added to: a log of thousands is folded without a copy for each entry. */
interface Draft {
  begunAt: string | null
  overAt: string | null
  ticks: Map<string, Tick>
  marks: Map<string, Mark>
  sceneId: string | null
  troubles: Map<string, { trouble: Trouble; at: string }>
  interrupted: Interrupted | null
  events: NightEvent[]
}

const draftOf = (state: NightState): Draft => ({
  ...state,
  ticks: new Map(state.ticks),
  marks: new Map(state.marks.map((mark) => [mark.id, mark])),
  troubles: new Map(state.troubles),
  events: [...state.events],
})

/** Adds what one event changes. */
function apply(draft: Draft, { at, who }: NightEvent, happening: Happening): void {
  switch (happening.kind) {
    case 'begun':
      draft.begunAt ??= at
      draft.overAt = null
      break
    case 'over':
      draft.overAt = at
      draft.interrupted = null
      break
    case 'new night':
      Object.assign(draft, draftOf(noNight))
      break
    case 'ticked': {
      const { taskId, knowingly } = happening
      // Two who tick at once: the first one did it.
      if (!draft.ticks.has(taskId)) draft.ticks.set(taskId, { at, who, knowingly })
      break
    }
    case 'unticked':
      draft.ticks.delete(happening.taskId)
      break
    case 'scene':
      draft.sceneId = happening.sceneId
      break
    case 'marked': {
      const { markId: id, name, sceneId, backSeconds } = happening
      if (!draft.marks.has(id))
        draft.marks.set(id, { id, name, sceneId, who, from: before(at, backSeconds), until: at })
      break
    }
    case 'mark named': {
      const mark = draft.marks.get(happening.markId)
      if (mark) draft.marks.set(mark.id, { ...mark, name: happening.name })
      break
    }
    case 'mark removed':
      draft.marks.delete(happening.markId)
      break
    case 'trouble':
      draft.troubles.set(happening.destinationId, { trouble: happening.trouble, at })
      break
    case 'trouble over':
      draft.troubles.delete(happening.destinationId)
      break
    case 'interrupted':
      draft.interrupted = happening
      break
    case 'sent':
    case 'carried':
    case 'encoded':
    case 'recorded':
      // Whoever ends sends in good order has gone on, or does not want to.
      draft.interrupted = null
      break
    case 'noted':
      break
  }
}

/** The state after events that are new, each taken once, in the order of their sequence. */
export function afterEvents(state: NightState, events: readonly NightEvent[]): NightState {
  let last = state.events.at(-1)?.sequence ?? 0
  if (!events.some(({ sequence }) => sequence > last)) return state
  const draft = draftOf(state)
  for (const event of events) {
    if (event.sequence <= last) continue
    last = event.sequence
    apply(draft, event, event.happening)
    draft.events.push(event)
  }
  return { ...draft, marks: [...draft.marks.values()] }
}

/** What a whole log comes to. */
export const nightState = (events: readonly NightEvent[]): NightState =>
  afterEvents(noNight, events)

/** The number of the entry of a whole log that put one of its nights away; null for the last. */
export function putAwayAt(log: readonly NightEvent[], night: readonly NightEvent[]): number | null {
  const last = night.at(-1)?.sequence ?? 0
  const end = log.find(
    ({ sequence, happening }) => happening.kind === 'new night' && sequence > last,
  )
  return end?.sequence ?? null
}

/** A log taken apart into its nights, the earliest first; each begins after the night before was put away. */
export function nightsOf(events: readonly NightEvent[]): NightEvent[][] {
  const nights: NightEvent[][] = [[]]
  for (const event of events)
    if (event.happening.kind === 'new night') nights.push([])
    else nights.at(-1)?.push(event)
  return nights.filter((night) => night.length > 0)
}
