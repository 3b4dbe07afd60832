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
  /** The events of this night, first to last. */
  events: readonly NightEvent[]
}

export const noNight: NightState = {
  begunAt: null,
  overAt: null,
  ticks: new Map(),
  marks: [],
  sceneId: null,
  troubles: new Map(),
  events: [],
}

const before = (at: string, seconds: number): string =>
  new Date(Date.parse(at) - seconds * 1000).toISOString()

/** The state after one more event. */
function afterHappening(
  state: NightState,
  { at, who }: NightEvent,
  happening: Happening,
): NightState {
  switch (happening.kind) {
    case 'begun':
      return { ...state, begunAt: state.begunAt ?? at, overAt: null }
    case 'over':
      return { ...state, overAt: at }
    case 'new night':
      return noNight
    case 'ticked': {
      const { taskId, knowingly } = happening
      // Two who tick at once: the first one did it.
      if (state.ticks.has(taskId)) return state
      return { ...state, ticks: new Map(state.ticks).set(taskId, { at, who, knowingly }) }
    }
    case 'unticked': {
      const ticks = new Map(state.ticks)
      ticks.delete(happening.taskId)
      return { ...state, ticks }
    }
    case 'scene':
      return { ...state, sceneId: happening.sceneId }
    case 'marked': {
      const { markId: id, name, sceneId, backSeconds } = happening
      if (state.marks.some((mark) => mark.id === id)) return state
      const mark: Mark = { id, name, sceneId, who, from: before(at, backSeconds), until: at }
      return { ...state, marks: [...state.marks, mark] }
    }
    case 'mark named':
      return {
        ...state,
        marks: state.marks.map((mark) =>
          mark.id === happening.markId ? { ...mark, name: happening.name } : mark,
        ),
      }
    case 'mark removed':
      return { ...state, marks: state.marks.filter(({ id }) => id !== happening.markId) }
    case 'trouble': {
      const { destinationId, trouble } = happening
      return { ...state, troubles: new Map(state.troubles).set(destinationId, { trouble, at }) }
    }
    case 'trouble over': {
      const troubles = new Map(state.troubles)
      troubles.delete(happening.destinationId)
      return { ...state, troubles }
    }
    case 'sent':
    case 'recorded':
    case 'noted':
      return state
  }
}

/** The state after events that are new, each taken once, in the order of their sequence. */
export function afterEvents(state: NightState, events: readonly NightEvent[]): NightState {
  let next = state
  for (const event of events) {
    const last = next.events.at(-1)?.sequence ?? 0
    if (event.sequence <= last) continue
    const changed = afterHappening(next, event, event.happening)
    next = { ...changed, events: [...changed.events, event] }
  }
  return next
}

/** What a whole log comes to. */
export const nightState = (events: readonly NightEvent[]): NightState =>
  afterEvents(noNight, events)
