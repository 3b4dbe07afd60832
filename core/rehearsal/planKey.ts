import { type Line, lineOf, pictureOf } from '../show'
import type { RehearsedShow } from '../simulation'

/** 64 bits of a text as hexadecimal (two rounds of FNV-1a by Fowler, Noll and Vo, from either side). */
function hashOf(text: string): string {
  let ahead = 0x811c9dc5
  let back = 0x811c9dc5
  for (let index = 0; index < text.length; index += 1) {
    ahead = Math.imul(ahead ^ text.charCodeAt(index), 0x01000193)
    back = Math.imul(back ^ text.charCodeAt(text.length - 1 - index), 0x01000193)
  }
  return [ahead, back].map((part) => (part >>> 0).toString(16).padStart(8, '0')).join('')
}

/**
 * A hash of some part of a show, worked out once for each state of it: an edit elsewhere leaves the
 * part the same object, and a line with thousands of measurements takes milliseconds.
 */
function hashOnce<Part extends object>(of: (part: Part) => unknown): (part: Part) => string {
  const known = new WeakMap<Part, string>()
  return (part) => {
    const found = known.get(part)
    if (found !== undefined) return found
    const made = hashOf(JSON.stringify(of(part)))
    known.set(part, made)
    return made
  }
}
type Destinations = RehearsedShow['destinations']

const hashOfLine = hashOnce((line: Line) => line)
const hashOfLineBesideHeadroom = hashOnce((line: Line) => ({ ...line, headroomPercent: null }))
const hashOfSends = hashOnce((destinations: Destinations) =>
  destinations.map((destination) => {
    const { id, on, canvas, connection, protocol, backupAddress, relayId, path, viewers } =
      destination
    const { plan, sending, renditions, rules } = destination
    return [
      [id, on, canvas, connection, protocol, backupAddress !== null, relayId, path, viewers],
      [plan.leftOut, sending, renditions, rules.start],
    ]
  }),
)
const hashOfWishes = hashOnce((destinations: Destinations) =>
  destinations.map((destination) => {
    const { id, on, protocol, backupAddress, path, viewers, sending, rules, plan } = destination
    return [
      [id, on, protocol, backupAddress !== null, path, viewers],
      [sending, rules, plan.priority, plan.mustKeep],
    ]
  }),
)

/** What nights depend on, as a short text: two shows with the same have the same nights. */
export const rehearsalKey = (show: RehearsedShow): string =>
  hashOf(
    JSON.stringify([
      [hashOfLine(lineOf(show)), hashOfSends(show.destinations)],
      [pictureOf(show), show.durationMinutes, show.computer, show.recordings],
      [show.rehearsal.seed, show.rehearsal.incidents, show.rehearsal.clean],
    ]),
  )

/**
 * What the wish for clean nights hangs on, as a short text: everything but what follows from it, the
 * headroom and the plan.
 */
export function wishKey(show: RehearsedShow): string {
  const { seed, incidents, clean, wantedPercent } = show.rehearsal
  return hashOf(
    JSON.stringify([
      [hashOfLineBesideHeadroom(lineOf(show)), hashOfWishes(show.destinations)],
      [pictureOf(show), show.durationMinutes, show.computer],
      show.recordings.map(({ id, on }) => [id, on]),
      [seed, incidents, clean, wantedPercent],
    ]),
  )
}

/** How far a show is rehearsed. */
export type RehearsalState =
  | { name: 'not yet' }
  /** Of 100 nights, rounded; `isEnough` for the share that is wanted. */
  | { name: 'rehearsed'; ofHundred: number; isEnough: boolean }
  | { name: 'out of date' }

export function rehearsalState(show: RehearsedShow): RehearsalState {
  const { last, wantedPercent } = show.rehearsal
  if (!last) return { name: 'not yet' }
  if (last.planKey !== rehearsalKey(show)) return { name: 'out of date' }
  const percent = (100 * last.clean) / last.nights
  // Not rounded up to a promise: 999 of 1,000 are 99 of 100.
  return { name: 'rehearsed', ofHundred: Math.floor(percent), isEnough: percent >= wantedPercent }
}

/** "clean on 93 of 100 nights", for the verdict; empty where nothing was rehearsed. */
export function rehearsalInWords(show: RehearsedShow): string {
  const state = rehearsalState(show)
  if (state.name === 'rehearsed') return `clean on ${state.ofHundred} of 100 nights`
  return state.name === 'out of date' ? 'rehearsed before it changed' : ''
}
