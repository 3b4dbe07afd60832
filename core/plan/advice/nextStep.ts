import type { Pin, Rendition, Show } from '../../show'
import { withoutPins, withRenditionsOf } from '../../show/edits'
import { kbpsInWords, listInWords, renditionInWords } from '../../words'
import { runToEnd } from '../runToEnd'
import { fittingMade } from '../fitShow'
import {
  type Choice,
  type Demand,
  scoreUnitsPerPoint,
  type Solution,
  unitsOfDemand,
} from '../problem/problem'
import { type ShowProblem, showProblem } from '../problem/showProblem'

/** A rise that is worth having: what gains less is not seen. */
const minGainPoints = 1
/** What others gain or lose by less is not told. */
const minShownPoints = 0.05

/** What the step does to another destination or recording. */
export interface Aside {
  name: string
  points: number
}

/** The next better rendition of a send, and what the best plan that has it gives and takes elsewhere. */
export interface NextStep {
  rendition: Rendition
  /** Mean over its viewers' screens, as the planner counts it. */
  score: number
  gainPoints: number
  /** What the others lose, and whom it costs its place; null where no plan has room for the step. */
  costs: (Aside & { isLeftOut: boolean })[] | null
  /** What others gain by it, as when they share the encode. */
  lifts: Aside[]
}

/** A score in a problem's units as points of one demand. */
const pointsOf = (made: ShowProblem, demand: number, units: number): number => {
  const { priority } = made.problem.demands[demand]!
  return (units / scoreUnitsPerPoint / priority) * stepsOf(made, demand)
}

/** Among how many steps of a ladder a demand's score is shared. */
const stepsOf = ({ problem: { demands } }: ShowProblem, demand: number): number =>
  demands.filter(({ owner }) => owner === demands[demand]!.owner).length

const unitsIn = ({ problem }: ShowProblem, solution: Solution, demand: number): number =>
  unitsOfDemand(problem, solution, demand) ?? 0

/** The points of every destination and recording in a plan, by owner; null where it is left out. */
function pointsByOwner(made: ShowProblem, solution: Solution): Map<string, number | null> {
  const points = new Map<string, number | null>()
  made.problem.demands.forEach(({ owner }, demand) => {
    const isKept = solution.assignments[demand]!.encode !== null
    const own = pointsOf(made, demand, unitsIn(made, solution, demand)) / stepsOf(made, demand)
    points.set(owner, isKept ? (points.get(owner) ?? 0) + own : null)
  })
  return points
}

/** A demand that has to be kept, and is content with no less than so many units at no more than a bitrate. */
function content(demand: Demand, minUnits: number, maxBitrate: number): Demand {
  const choices = demand.choices.map((choice): Choice => ({
    ...choice,
    scores: choice.scores.map((units, at) =>
      units < minUnits || choice.first + at > maxBitrate ? -1 : units,
    ),
  }))
  return { ...demand, mustKeep: true, choices }
}

/** The lowest bitrate, as a place in the list, at which some shapes are worth so many units; null where none is. */
function lowestBitrate(
  { choices }: Demand,
  minUnits: number,
  isAsked: (shape: number) => boolean,
): number | null {
  const found = choices
    .filter(({ shape }) => isAsked(shape))
    .flatMap(({ first, scores, earned }) => {
      const at = scores.findIndex((units, own) => units >= minUnits && earned?.[own] !== 0)
      return at < 0 ? [] : [first + at]
    })
  return found.length > 0 ? Math.min(...found) : null
}

/** The picture of a demand that is worth most at a bitrate. */
function bestPictureAt({ problem }: ShowProblem, { choices }: Demand, bitrate: number) {
  const worthAt = ({ first, scores }: Choice): number => scores[bitrate - first] ?? -1
  const [best] = [...choices].sort((a, b) => worthAt(b) - worthAt(a)) as [Choice]
  const { canvas: _canvas, efficiency: _efficiency, ...picture } = problem.shapes[best.shape]!
  return {
    units: worthAt(best),
    picture: { ...picture, videoBitrateKbps: problem.bitratesKbps[bitrate]! },
  }
}

/** What a step is about is not held by the pins of its own destination. */
const stepPins: ReadonlySet<Pin> = new Set(['size', 'frame rate', 'video bitrate'])

const withoutStepPins = (show: Show, destinationId: string): Show =>
  withRenditionsOf(show, destinationId, (rendition, step) =>
    step === 0 ? withoutPins(rendition, (pin) => stepPins.has(pin)) : rendition,
  )

/**
 * The next step up of a destination's main rendition: what it gets when the show is planned again and
 * it has to gain a point at no higher a bitrate than that takes as it is encoded now, with what that
 * does to the others, all by the planner's own score. null where nothing that is accepted gains a
 * point. Yields between steps, so that it can be stopped.
 */
export function* findingNextStep(
  show: Show,
  destinationId: string,
): Generator<null, NextStep | null> {
  const main = show.destinations.find(({ id }) => id === destinationId)?.renditions[0]
  const made = showProblem(show)
  const isAsked = ({ id, step }: ShowProblem['sources'][number]): boolean =>
    id === destinationId && step === 0
  const index = made.sources.findIndex(isAsked)
  if (index < 0 || !main) return null
  const { solution: before } = yield* fittingMade(made)
  if (!before) return null
  const encode = before.assignments[index]!.encode
  const present = encode === null ? null : made.problem.shapes[before.encodes[encode]!.shape]!
  const has = unitsIn(made, before, index)

  const freed = showProblem(withoutStepPins(show, destinationId))
  const demand = freed.problem.demands[index]!
  const rise = (minGainPoints * scoreUnitsPerPoint * demand.priority) / stepsOf(freed, index)
  const isEncodedAlike = (shape: number): boolean => {
    const { codec, effort } = freed.problem.shapes[shape]!
    return !present || (codec === present.codec && effort === present.effort)
  }
  const maxBitrate =
    lowestBitrate(demand, has + rise, isEncodedAlike) ??
    lowestBitrate(demand, has + rise, () => true)
  if (maxBitrate === null) return null
  const raised = content(demand, has + rise, maxBitrate)
  // A ladder is kept or left out as a whole.
  const kept = (each: Demand): Demand =>
    each.owner === demand.owner ? { ...each, mustKeep: true } : each
  const { solution } = yield* fittingMade({
    ...freed,
    problem: {
      ...freed.problem,
      demands: freed.problem.demands.map((each, at) => (at === index ? raised : kept(each))),
    },
  })
  const told = (units: number) => ({
    score: pointsOf(freed, index, units),
    gainPoints: pointsOf(freed, index, units - has),
  })
  if (!solution) {
    const { picture, units } = bestPictureAt(freed, raised, maxBitrate)
    return { rendition: { ...main, ...picture }, ...told(units), costs: null, lifts: [] }
  }
  const others = changesOfOthers(
    show,
    destinationId,
    pointsByOwner(made, before),
    pointsByOwner(freed, solution),
  )
  return {
    rendition: { ...main, ...pictureIn(freed, solution, index) },
    ...told(unitsIn(freed, solution, index)),
    costs: others.filter(({ points, isLeftOut }) => isLeftOut || points >= minShownPoints),
    lifts: others
      .filter(({ points }) => points <= -minShownPoints)
      .map(({ name, points }) => ({ name, points: -points })),
  }
}

/** The next step up, found to the end; see `findingNextStep`. */
export const nextStepOf = (show: Show, destinationId: string): NextStep | null =>
  runToEnd(findingNextStep(show, destinationId))

/** What others lose, those left out before aside; less than nothing is a gain. */
function changesOfOthers(
  { destinations, recordings }: Show,
  destinationId: string,
  earlier: ReadonlyMap<string, number | null>,
  later: ReadonlyMap<string, number | null>,
): (Aside & { isLeftOut: boolean })[] {
  const owners = [
    ...destinations.map(({ id, name }) => ({ owner: id, name })),
    ...recordings.map(({ id, name }) => ({ owner: `recording ${id}`, name })),
  ]
  return owners.flatMap(({ owner, name }) => {
    const had = earlier.get(owner) ?? null
    if (owner === destinationId || had === null) return []
    const left = later.get(owner) ?? null
    return [{ name, points: had - (left ?? 0), isLeftOut: left === null }]
  })
}

function pictureIn(
  { problem }: ShowProblem,
  { assignments, encodes }: Solution,
  demand: number,
): Partial<Rendition> {
  const { shape, bitrateKbps } = encodes[assignments[demand]!.encode!]!
  const { canvas: _canvas, efficiency: _efficiency, ...picture } = problem.shapes[shape]!
  return { ...picture, videoBitrateKbps: bitrateKbps }
}

/** As in "Next step up: 6,200 kb/s of 1080p60 gains 1.0 point and costs Hedgerow Live 0.4 points." */
export function nextStepInWords({ rendition, gainPoints, costs, lifts }: NextStep): string {
  const points = (value: number): string =>
    `${value.toFixed(1)} ${value.toFixed(1) === '1.0' ? 'point' : 'points'}`
  const gain = `Next step up: ${kbpsInWords(rendition.videoBitrateKbps)} of ${renditionInWords(rendition)} gains ${points(gainPoints)}`
  if (!costs) return `${gain}, but no plan has room for it.`
  const lifted =
    lifts.length > 0
      ? `, lifts ${listInWords(lifts.map((lift) => `${lift.name} by ${points(lift.points)}`))}`
      : ''
  if (costs.length === 0) return `${gain}${lifted} and costs the others nothing.`
  const words = costs.map((cost) =>
    cost.isLeftOut ? `${cost.name} its place` : `${cost.name} ${points(cost.points)}`,
  )
  return `${gain}${lifted} and costs ${listInWords(words)}.`
}
