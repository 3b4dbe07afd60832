import { withDestinationOff, withoutPin, withRecordingOff } from '../../show/edits'
import { showProblem } from '../problem/showProblem'
import type { PlannedShow } from '../problem/renditionRequests'
import { runToEnd } from '../runToEnd'
import { findingWholePlan } from '../search/solve'

/** One thing that a person asked for and that a plan has to meet. */
export interface DemandInWords {
  id: string
  words: string
  without: (show: PlannedShow) => PlannedShow
}

/** What was asked for: every pin, and every destination and recording to be there at all. */
export function demandsInWords(show: PlannedShow): DemandInWords[] {
  const demands: DemandInWords[] = []
  for (const destination of show.destinations.filter(
    ({ on, connection }) => on && connection !== 'relay',
  )) {
    const { id, name } = destination
    demands.push({
      id: `keep ${id}`,
      words: destination.plan.mustKeep ? `${name} has to be kept` : `${name} is sent`,
      without: (before) => withDestinationOff(before, id),
    })
    for (const pin of new Set(destination.renditions.flatMap(({ pins }) => pins)))
      demands.push({
        id: `pin ${id} ${pin}`,
        words: `the ${pin} for ${name} is pinned`,
        without: (before) => withoutPin(before, id, pin),
      })
  }
  for (const { id, name } of show.recordings.filter(({ on }) => on))
    demands.push({
      id: `keep ${id}`,
      words: `${name} is recorded`,
      without: (before) => withRecordingOff(before, id),
    })
  return demands
}

/** Whether a plan exists that leaves nothing out. */
const keepsAll = (show: PlannedShow): Generator<unknown, boolean> =>
  findingWholePlan(showProblem(show).problem)

/**
 * Where not everything that was asked for fits: a smallest set of demands that collide, so that
 * letting go of any one of them would let the rest of the set be met. Empty where all fits. Found by
 * letting go of one demand after the other for as long as it still does not fit. Yields between steps,
 * so that it can be stopped.
 */
export function* findingConflicts(show: PlannedShow): Generator<unknown, DemandInWords[]> {
  if (yield* keepsAll(show)) return []
  let current = show
  const colliding: DemandInWords[] = []
  // Pins are let go of last, so that where pins are to blame they are named.
  const demands = demandsInWords(show)
  const inOrder = [
    ...demands.filter(({ id }) => id.startsWith('keep')),
    ...demands.filter(({ id }) => id.startsWith('pin')),
  ]
  for (const demand of inOrder) {
    const without = demand.without(current)
    if (yield* keepsAll(without)) colliding.push(demand)
    else current = without
  }
  return colliding
}

/** Finds them to the end; see `findingConflicts`. */
export const conflictsOf = (show: PlannedShow): DemandInWords[] => runToEnd(findingConflicts(show))
