import { noPreferences } from '../problem/preferences'
import type { Problem } from '../problem/problem'
import { searchedComponents } from './components'
import { firstPlan } from './firstPlan'
import { leastUploadKbps } from './leastUpload'
import { EncodeUses, solutionOfEncodes } from './planState'
import { areComplete, columnsFor, selectionOf, solutionFrom } from './selection'
import { minLeftOut, noLimit } from './shortfall'
import { aggregated } from './symmetry'

/** Whether there is a plan of a kind. One that was found is there; that there is none may not be proven. */
export interface Existence {
  exists: boolean
  isProven: boolean
}
const isThere: Existence = { exists: true, isProven: true }
const provenNone: Existence = { exists: false, isProven: true }

/** Rounds of a large neighbourhood search for every question, since many are asked one after the other. */
const rounds = 200

interface LeastLeftOut {
  /** null where no plan was found at all. */
  weight: number | null
  isProven: boolean
}

/** How much has to be left out. What is found at once is looked no further for. */
function* findingLeftOut(given: Problem, enough: number): Generator<unknown, LeastLeftOut> {
  const aggregation = aggregated(given)
  const { problem } = aggregation
  const uses = new EncodeUses(problem, noPreferences)
  const { encodes: atOnce, known } = yield* firstPlan(uses, null, {
    rounds,
    enough: { leftOutWeight: enough, belowFloor: Infinity },
  })
  const leftOut = atOnce && solutionOfEncodes(uses, atOnce).worth.leftOutWeight
  if (leftOut !== null && leftOut <= enough) return { weight: leftOut, isProven: false }
  const components = searchedComponents(problem, 'first', known.served)
  const all = yield* columnsFor(problem, components, { known })
  const start = atOnce && selectionOf(uses, all, atOnce)
  const { found, status } = yield* minLeftOut(problem, all, start)
  return {
    weight: found && solutionFrom(problem, all, found).worth.leftOutWeight,
    isProven: status.name !== 'stopped' && aggregation.isExact && areComplete(all),
  }
}

/** Whether a plan exists at all that keeps what has to be kept. */
export function* findingPlan(problem: Problem): Generator<unknown, Existence> {
  if (!hasRoom(problem, noLimit)) return provenNone
  const { weight, isProven } = yield* findingLeftOut(problem, Infinity)
  return weight !== null ? isThere : { exists: false, isProven }
}

/** Whether a plan exists that leaves nobody out. */
export function* findingWholePlan(problem: Problem): Generator<unknown, Existence> {
  if (!hasRoom(problem, 0)) return provenNone
  const { weight, isProven } = yield* findingLeftOut(problem, 0)
  return weight === 0 ? isThere : { exists: false, isProven }
}

/** Whether the upload could be enough for all but so much. */
const hasRoom = (problem: Problem, leftOutWeight: number): boolean =>
  leastUploadKbps(problem, { leftOutWeight, isAboveFloor: false }) <= problem.uploadKbps
