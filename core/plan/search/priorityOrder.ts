import type { Choice, Demand, Problem } from '../problem/problem'
import type { Encode } from './planState'

/** The class of demands that are alike but for their priority, and the place in it, the highest priority first. */
export interface Rank {
  /** The first demand of the class. */
  alike: number
  place: number
}

/**
 * How demands whose owners are alike in every respect but their priority follow each other. Let two of
 * them change places in a plan, with encode and route: it uses the same, as many are below the floor,
 * and it is worth no less where the one of the higher priority gets the encode that scores higher. So
 * there is a best plan, at any prices too, in which each encode serves demands of a class that follow
 * each other by priority, and those that are left out come last (an exchange argument).
 *
 * Of lots (`symmetry.ts`) that is not so, since they are of different sizes. There every demand stands
 * by itself.
 *
 * @returns for each demand its rank
 */
export function ranksByPriority({ demands }: Problem): Rank[] {
  if (demands.some(({ count }) => count > 1))
    return demands.map((_, index) => ({ alike: index, place: 0 }))
  const ranks = new Array<Rank>(demands.length)
  for (const owners of alikeButForPriority(demands))
    owners.forEach((steps, place) =>
      steps.forEach((demand, step) => {
        const alike = Math.min(...owners.map((others) => others[step]!))
        ranks[demand] = { alike, place }
      }),
    )
  return ranks
}

/**
 * The same plan with those who are alike in the places that the order by priority gives them: the ones that
 * matter more have the better encodes, and those that are left out come last. It uses the same, falls no
 * shorter, and is worth no less.
 */
export function inPriorityOrder(problem: Problem, encodes: readonly Encode[]): Encode[] {
  const { demands } = problem
  if (demands.some(({ count }) => count > 1)) return [...encodes]
  const placeOf = new Map(
    encodes.flatMap((encode, index) =>
      encode.serves.map(({ demand, relay }) => [demand, { encode, index, relay }] as const),
    ),
  )
  /** What a demand of priority 1 would get in the place of this one; less than nothing where it is left out. */
  const unitsFor = (demand: number): number => {
    const place = placeOf.get(demand)
    if (!place) return -1
    const { shape, bitrate } = place.encode
    const { choices, priority } = demands[demand]!
    const { first, scores } = choices.find((choice) => choice.shape === shape)!
    return scores[bitrate - first]! / priority
  }
  const isFed = (demand: number): number => Number(placeOf.get(demand)?.relay != null)
  const insteadOf = new Map<number, number>()
  for (const owners of alikeButForPriority(demands)) {
    const places = owners.toSorted(
      ([a], [b]) =>
        unitsFor(b!) - unitsFor(a!) ||
        (placeOf.get(a!)?.index ?? 0) - (placeOf.get(b!)?.index ?? 0) ||
        isFed(b!) - isFed(a!),
    )
    owners.forEach((steps, at) =>
      steps.forEach((demand, step) => insteadOf.set(places[at]![step]!, demand)),
    )
  }
  return encodes.map((encode) => ({
    ...encode,
    serves: encode.serves.map(({ demand, relay }) => ({ demand: insteadOf.get(demand)!, relay })),
  }))
}

/** The demands of each owner; owners that are alike together, the highest priority first. */
function alikeButForPriority(demands: readonly Demand[]): number[][][] {
  const owners = new Map<string, number[]>()
  demands.forEach(({ owner }, index) => owners.set(owner, [...(owners.get(owner) ?? []), index]))
  const classes = new Map<string, number[][][]>()
  for (const steps of owners.values()) {
    const key = JSON.stringify(steps.map((index) => keyOf(demands[index]!)))
    const found = classes.get(key) ?? []
    classes.set(key, found)
    const alike = found.find(([first]) =>
      first!.every((index, step) => areAlike(demands[index]!, demands[steps[step]!]!)),
    )
    if (alike) alike.push(steps)
    else found.push([steps])
  }
  const priorityOf = ([first]: readonly number[]): number => demands[first!]!.priority
  return [...classes.values()]
    .flat()
    .map((owned) => owned.sort((a, b) => priorityOf(b) - priorityOf(a) || a[0]! - b[0]!))
}

/** What is told apart at once; the rest is compared number by number. */
function keyOf({ mustKeep, picture, sound, devices, direct, relays, ...rest }: Demand) {
  const shapes = rest.choices.map(({ shape, first }) => [shape, first])
  return [mustKeep, picture, sound, devices, direct, relays, rest.shares, shapes]
}

/** Whether two demands of one key get and take the same of every shape at every bitrate, for their priorities. */
function areAlike(a: Demand, b: Demand): boolean {
  const [ofA, ofB] = [a.priority, b.priority]
  if (ofA <= 0 || ofB <= 0) return false
  const isProportional = (one: number, other: number): boolean => one * ofB === other * ofA
  return (
    isProportional(a.floorUnits, b.floorUnits) &&
    isProportional(a.marginUnits, b.marginUnits) &&
    a.choices.every((choice, index) => {
      const other = b.choices[index] as Choice
      return (
        isSame(choice.earned, other.earned) &&
        isSame(choice.wireKbps, other.wireKbps) &&
        isSame(choice.diskMegabytes, other.diskMegabytes) &&
        choice.scores.length === other.scores.length &&
        choice.scores.every((units, at) =>
          // What is not accepted stands as -1, whatever the priority.
          units < 0 || other.scores[at]! < 0
            ? units === other.scores[at]!
            : isProportional(units, other.scores[at]!),
        )
      )
    })
  )
}

const isSame = (a: ArrayLike<number> | null, b: ArrayLike<number> | null): boolean =>
  a === b ||
  (a !== null &&
    b !== null &&
    a.length === b.length &&
    Array.prototype.every.call(a, (value, at) => value === b[at]))
