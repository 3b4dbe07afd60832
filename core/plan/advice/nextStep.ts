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

export interface StepCost extends Aside {
  isLeftOut: boolean
  /** Its picture was above the floor of the show, and is no more. */
  fallsBelowFloor: boolean
}

/** The next better rendition of a send, and what planning again with it held gives and takes. */
export interface NextStep {
  rendition: Rendition
  /** What the destination gains, as the mean over its viewers' screens and the steps of its ladder. */
  gainPoints: number
  /** What the others lose, and whom it costs its place; null where no plan has room for the step. */
  costs: StepCost[] | null
  /** What others gain by it, as when they share the encode. */
  lifts: Aside[]
}

const unitsIn = ({ problem }: ShowProblem, solution: Solution, demand: number): number =>
  unitsOfDemand(problem, solution, demand) ?? 0

/** How a destination or recording that is kept fares in a plan. */
interface Standing {
  points: number
  isBelowFloor: boolean
}

/** How every destination and recording fares in a plan, by owner; who is left out is missing. */
function standings(made: ShowProblem, solution: Solution): Map<string, Standing> {
  const found = new Map<string, Standing>()
  made.problem.demands.forEach(({ owner, priority, floorUnits }, demand) => {
    if (solution.assignments[demand]!.encode === null) return
    const units = unitsIn(made, solution, demand)
    const before = found.get(owner) ?? { points: 0, isBelowFloor: false }
    found.set(owner, {
      points: before.points + units / scoreUnitsPerPoint / priority,
      isBelowFloor: before.isBelowFloor || units < floorUnits,
    })
  })
  return found
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

/** What a curve and a score hang on besides. */
const encodedBy: readonly Pin[] = ['codec', 'effort']

const withoutStepPins = (show: Show, destinationId: string): Show =>
  withRenditionsOf(show, destinationId, (rendition, step) =>
    step === 0 ? withoutPins(rendition, (pin) => stepPins.has(pin)) : rendition,
  )

/** The show as it is once somebody has set a destination's main rendition to the step: that much is held. */
const steppedUp = (show: Show, destinationId: string, step: Rendition): Show => ({
  ...show,
  destinations: show.destinations.map((destination) =>
    destination.id === destinationId
      ? {
          ...destination,
          plan: { ...destination.plan, mustKeep: true },
          renditions: destination.renditions.map((rendition, at) =>
            at === 0
              ? { ...step, pins: [...new Set([...rendition.pins, ...stepPins, ...encodedBy])] }
              : rendition,
          ),
        }
      : destination,
  ),
})

/** How a step is asked for: the least that the main rendition has to be worth, at no more than a bitrate. */
interface Asked {
  freed: ShowProblem
  raised: Demand
  index: number
  maxBitrate: number
}

/**
 * The main rendition of the best plan in which it is worth so many units more, at no higher a bitrate than
 * that takes as it is encoded now; its plan is null where there is none. null where nothing that is accepted
 * is worth so much.
 */
function* findingRaised(
  freed: ShowProblem,
  index: number,
  minUnits: number,
  isEncodedAlike: (shape: number) => boolean,
): Generator<null, (Asked & { solution: Solution | null }) | null> {
  const demand = freed.problem.demands[index]!
  const maxBitrate =
    lowestBitrate(demand, minUnits, isEncodedAlike) ?? lowestBitrate(demand, minUnits, () => true)
  if (maxBitrate === null) return null
  const raised = content(demand, minUnits, maxBitrate)
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
  return { freed, raised, index, maxBitrate, solution }
}

/** Holding a picture leaves the device open, and another one may draw it worse: so many rises are tried. */
const maxRises = 4

/**
 * The next step up of a destination's main rendition: one by which the destination gains a point when it is
 * held and the show is planned again, with what that does to the others, all by the planner's own score.
 * null where nothing that is accepted gains a point. Yields between steps, so that it can be stopped.
 */
export function* findingNextStep(
  show: Show,
  destinationId: string,
): Generator<null, NextStep | null> {
  const main = show.destinations.find(({ id }) => id === destinationId)?.renditions[0]
  const made = showProblem(show)
  const index = made.sources.findIndex(({ id, step }) => id === destinationId && step === 0)
  if (index < 0 || !main) return null
  const { solution: before } = yield* fittingMade(made)
  if (!before) return null
  const encode = before.assignments[index]!.encode
  const present = encode === null ? null : made.problem.shapes[before.encodes[encode]!.shape]!
  const has = unitsIn(made, before, index)
  const earlier = standings(made, before)

  const freed = showProblem(withoutStepPins(show, destinationId))
  const { owner, priority } = freed.problem.demands[index]!
  const isEncodedAlike = (shape: number): boolean => {
    const { codec, effort } = freed.problem.shapes[shape]!
    return !present || (codec === present.codec && effort === present.effort)
  }
  const leastRise = minGainPoints * scoreUnitsPerPoint * priority
  for (let rises = 1; rises <= maxRises; rises += 1) {
    const minUnits = has + leastRise * rises
    const found = yield* findingRaised(freed, index, minUnits, isEncodedAlike)
    if (!found) return null
    if (!found.solution) return withoutRoom(found, main, has)
    const rendition = { ...main, ...pictureIn(freed, found.solution, index) }
    const stepped = showProblem(steppedUp(show, destinationId, rendition))
    const { solution: after } = yield* fittingMade(stepped)
    if (!after) continue
    const later = standings(stepped, after)
    const gainPoints = (later.get(owner)?.points ?? 0) - (earlier.get(owner)?.points ?? 0)
    if (gainPoints < minGainPoints) continue
    const others = changesOfOthers(show, destinationId, earlier, later)
    return {
      rendition,
      gainPoints,
      costs: others.filter(
        ({ points, isLeftOut, fallsBelowFloor }) =>
          isLeftOut || fallsBelowFloor || points >= minShownPoints,
      ),
      lifts: others
        .filter(({ points }) => points <= -minShownPoints)
        .map(({ name, points }) => ({ name, points: -points })),
    }
  }
  return null
}

/** What the step would be worth if there were room for it. */
function withoutRoom(
  { freed, raised, index, maxBitrate }: Asked,
  main: Rendition,
  has: number,
): NextStep {
  const { picture, units } = bestPictureAt(freed, raised, maxBitrate)
  const { priority } = freed.problem.demands[index]!
  const gainPoints = (units - has) / scoreUnitsPerPoint / priority
  return { rendition: { ...main, ...picture }, gainPoints, costs: null, lifts: [] }
}

/** The next step up, found to the end; see `findingNextStep`. */
export const nextStepOf = (show: Show, destinationId: string): NextStep | null =>
  runToEnd(findingNextStep(show, destinationId))

/** What others lose, those left out before aside; less than nothing is a gain. */
function changesOfOthers(
  { destinations, recordings }: Show,
  destinationId: string,
  earlier: ReadonlyMap<string, Standing>,
  later: ReadonlyMap<string, Standing>,
): StepCost[] {
  const owners = [
    ...destinations.map(({ id, name }) => ({ owner: id, name })),
    ...recordings.map(({ id, name }) => ({ owner: `recording ${id}`, name })),
  ]
  return owners.flatMap(({ owner, name }) => {
    const had = earlier.get(owner)
    if (owner === destinationId || !had) return []
    const left = later.get(owner)
    return [
      {
        name,
        points: had.points - (left?.points ?? 0),
        isLeftOut: !left,
        fallsBelowFloor: !had.isBelowFloor && (left?.isBelowFloor ?? false),
      },
    ]
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
  const words = costs.map(({ name, points: lost, isLeftOut, fallsBelowFloor }) => {
    if (isLeftOut) return `${name} its place`
    return `${name} ${points(lost)}${fallsBelowFloor ? ', below the floor for the picture' : ''}`
  })
  return `${gain}${lifted} and costs ${listInWords(words)}.`
}
