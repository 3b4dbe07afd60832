import { withDestinationOff, withoutPin, withRecordingOff } from '../../show/edits'
import { showProblem } from '../problem/showProblem'
import type { PlannedShow } from '../problem/renditionRequests'
import { runToEnd } from '../runToEnd'
import { listInWords } from '../../words'
import { type Existence, findingWholePlan } from '../search/existence'

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

/** A smallest set of demands that collide, none where all fit. */
export interface Conflicts {
  demands: DemandInWords[]
  /** Whether it is proven that they can't all be met; that the rest of them can without any one is in any case. */
  isProven: boolean
}

/** Whether a plan exists that leaves nothing out. */
const keepsAll = (show: PlannedShow): Generator<unknown, Existence> =>
  findingWholePlan(showProblem(show).problem)

/**
 * Where not everything that was asked for fits: a smallest set of demands that collide, so that
 * letting go of any one of them would let the rest of the set be met. Found by letting go of one demand
 * after the other for as long as it still does not fit. Yields between steps, so that it can be stopped.
 */
export function* findingConflicts(show: PlannedShow): Generator<unknown, Conflicts> {
  const whole = yield* keepsAll(show)
  if (whole.exists) return { demands: [], isProven: true }
  let { isProven } = whole
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
    const rest = yield* keepsAll(without)
    if (rest.exists) colliding.push(demand)
    else {
      current = without
      isProven = rest.isProven
    }
  }
  return { demands: colliding, isProven }
}

/** Finds them to the end; see `findingConflicts`. */
export const conflictsOf = (show: PlannedShow): Conflicts => runToEnd(findingConflicts(show))

/** What collides as a sentence; empty where nothing does. */
export function conflictsInWords({ demands, isProven }: Conflicts): string {
  if (demands.length === 0) return ''
  const isOne = demands.length === 1
  const proven = isOne ? 'This cannot be met' : 'These cannot all be met at once'
  const notFound = `No plan was found that meets ${isOne ? 'this' : 'all of these'}, which does not prove that there is none`
  const letGo = isOne ? 'letting go of it would do' : 'letting go of any one of them would do'
  const listed = listInWords(demands.map(({ words }) => words))
  return `${isProven ? proven : notFound}, and ${letGo}: ${listed}.`
}
