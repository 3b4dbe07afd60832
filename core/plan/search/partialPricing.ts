import { type Bound, findingBound, uploadBound } from './lagrangianBound'
import { minPoint } from './curves'
import { type Subproblem, restricted } from './subproblems'
import { bundleMethod } from './bundleMethod'
import type { Resources } from './resources'
import { inPlansWorth, type Node } from './reducedCostFixing'

/** Plans that fall short of the bound by no more than this share of it are nearly the best. */
const nearShare = 0.01
/** How often columns are added at most, and how far the bound may stay above that of the near columns, as a share of it. */
const maxAdditions = 5
const minExcess = 1e-6

/** One column in so many is looked at for a first price of the upload, and of each set the one that takes least. */
const sampledEvery = 8

/** A bound to begin with: at about the best price for the upload alone, found on a sample of the columns. */
export function* firstBound(
  subproblems: readonly Subproblem[],
  resources: Resources,
): Generator<void, Bound> {
  const samples: Subproblem[] = []
  for (const subproblem of subproblems)
    samples.push(yield* restricted(subproblem, sampleOf(subproblem)))
  const { prices } = yield* uploadBound(samples, resources)
  return yield* findingBound(subproblems, prices, resources)
}

/** 1 for each column in play that is in the sample. */
function sampleOf({ columns, curves, inPlay, firstOfSet }: Subproblem): Uint8Array {
  const minWire = (at: number): number =>
    curves.wire[minPoint(curves, columns.curve[inPlay[at]!]!)]!
  const isIn = new Uint8Array(inPlay.length)
  for (let set = 0; set + 1 < firstOfSet.length; set += 1) {
    let least = firstOfSet[set]!
    for (let at = least; at < firstOfSet[set + 1]!; at += 1) {
      if (minWire(at) < minWire(least)) least = at
      if (at % sampledEvery === 0) isIn[at] = 1
    }
    isIn[least] = 1
  }
  return isIn
}

/** What nearly the best plans are worth at the prices of a bound. */
export const nearlyBest = ({ upper }: Bound): number => upper - Math.abs(upper) * nearShare

/**
 * As `bundleMethod`, but prices are mostly tried on the columns of nearly the best plans alone, which are
 * few: the lowest bound for those is held against all columns, what is nearly best there is added,
 * and so on until all columns together allow no more than the near ones do.
 */
export function* boundByPartialPricing(
  { subproblems, bound }: Node,
  resources: Resources,
  wanted: number | null,
  rounds: number,
): Generator<void, Bound> {
  let best = bound
  let added = bound
  const near = subproblems.map(({ inPlay }) => new Uint8Array(inPlay.length))
  for (let addition = 0; addition < maxAdditions; addition += 1) {
    const more = yield* inPlansWorth({ subproblems, bound: added }, nearlyBest(added))
    const nearSubproblems: Subproblem[] = []
    for (const [index, subproblem] of subproblems.entries()) {
      const own = near[index]!
      more[index]!.forEach((is, at) => (own[at]! |= is))
      nearSubproblems.push(yield* restricted(subproblem, own))
    }
    yield
    const start = yield* findingBound(nearSubproblems, best.prices, resources)
    const low = yield* bundleMethod(nearSubproblems, resources, start, wanted, rounds)
    added = yield* findingBound(subproblems, low.prices, resources)
    if (added.upper < best.upper) best = added
    if (!(best.upper - low.upper > minExcess * Math.abs(best.upper))) break
    if (wanted !== null && best.upper <= wanted) break
  }
  return best
}
