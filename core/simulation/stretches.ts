import { type LaneState, laneStates } from './trace'

/** A stretch of a night in one state, as shares of its length. */
export interface Stretch {
  from: number
  width: number
  state: LaneState
}

/** More stretches than this along a lane nobody can tell apart. */
const maxPlaces = 400

/**
 * What is not steady in a lane, as stretches to draw: the gravest state of each of at most 400 places,
 * those alike beside each other joined, so that a night of nothing but losses is as quickly drawn.
 */
export function stretchesOf(states: Uint8Array): Stretch[] {
  const size = Math.max(1, Math.ceil(states.length / maxPlaces))
  const found: Stretch[] = []
  for (let from = 0; from < states.length; from += size) {
    let gravest = 0
    for (let at = from; at < Math.min(states.length, from + size); at += 1)
      gravest = Math.max(gravest, states[at] as number)
    const state = laneStates[gravest] as LaneState
    if (state === 'steady') continue
    const last = found.at(-1)
    const start = from / states.length
    const width = Math.min(size, states.length - from) / states.length
    const isNext = last && last.state === state && Math.abs(last.from + last.width - start) < 1e-9
    if (isNext) last.width += width
    else found.push({ from: start, width, state })
  }
  return found
}
