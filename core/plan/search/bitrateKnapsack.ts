import { type Curves, pointAtPrice } from './curves'

export interface Settled {
  value: number
  /** The point chosen on each curve. */
  points: number[]
}

/** What was looked at, in what takes as long as one look of a search, about a microsecond; counted up. */
export interface Work {
  looks: number
}
/** So many ways to put points together are looked at meanwhile. */
const waysInALook = 8

/** Worths are whole; a bound may come out so much too low. */
const rounding = 0.01
/** How far below the bound the first look reaches, in the worth of so many kb/s; then three times as far. */
const firstReachKbps = 3
const widening = 3

/**
 * The best bitrates where all else of every encode is settled: one point of each curve, within the
 * upload, worth most in all. null where none is worth at least `floor`.
 *
 * At a price for the upload each curve's best point gives an upper bound. Points are then tried
 * whose shortfalls from that bound add up to little, in two halves of the curves that are matched
 * to each other; if none fit, with more. What that takes is added to `work`.
 */
export function solveKnapsack(
  curves: Curves,
  chosen: readonly number[],
  uploadKbps: number,
  floor: number,
  work: Work = { looks: 0 },
): Settled | null {
  work.looks += chosen.length / waysInALook
  const free = sumAt(curves, chosen, 0)
  // So said, it ends with a floor that is no number, too.
  if (!(free.value >= floor)) return null
  if (free.wire <= uploadKbps) return { value: free.value, points: pointsAt(curves, chosen, 0) }
  const cheapest = sumAt(curves, chosen, Infinity)
  if (cheapest.wire > uploadKbps) return null

  // The bound is convex in the price: the next one tried is where the tangents at one too low and one
  // high enough meet, until there is no corner between the two.
  let [low, high] = [free, cheapest]
  let upper = Infinity
  let price = 0
  for (;;) {
    const next = (low.value - high.value) / (low.wire - high.wire)
    const sum = sumAt(curves, chosen, next)
    const bound = sum.value + next * (uploadKbps - sum.wire) + rounding
    if (bound < upper) {
      upper = bound
      price = next
      if (upper < floor) return null
    }
    if (sum.wire === low.wire || sum.wire === high.wire) break
    if (sum.wire > uploadKbps) low = sum
    else high = sum
    if (sum.wire === uploadKbps) break
  }
  const within = { value: high.value, points: pointsAt(curves, chosen, high.price) }
  const known = within.value >= floor ? within : null
  if (known && known.value + 1 > upper) return known
  const lowest = known ? known.value + 0.5 : floor
  for (let reach = price * firstReachKbps; ; reach *= widening) {
    const wanted = Math.max(lowest, upper - reach)
    const found = bestWorth(curves, chosen, uploadKbps, { price, upper, floor: wanted }, work)
    if (found) return found
    if (wanted === lowest) return known
  }
}

export type KnapsackSolver = (
  chosen: readonly number[],
  floor: number,
  work: Work,
) => Settled | null

/** The best bitrates of some curves, or that they are worth less than was once asked for. */
type Known = { best: Settled } | { isBelow: number }

/** So many answers are kept; what is forgotten is worked out again. */
const maxKnown = 50_000

/**
 * `solveKnapsack` for one upload, with its answers kept: a search meets the same curves again and
 * again, in encodes that differ in nothing but their devices.
 */
export function rememberedKnapsack(curves: Curves, uploadKbps: number): KnapsackSolver {
  const known = new Map<string, Known>()
  const lookUp = (sorted: readonly number[], floor: number, work: Work): Known => {
    work.looks += 1
    const key = sorted.join()
    const before = known.get(key)
    if (before && ('best' in before || before.isBelow <= floor)) return before
    const best = solveKnapsack(curves, sorted, uploadKbps, floor, work)
    const now = best ? { best } : { isBelow: floor }
    if (known.size >= maxKnown) known.clear()
    known.set(key, now)
    return now
  }
  return (chosen, floor, work) => {
    const order = chosen.map((_, index) => index).sort((a, b) => chosen[a]! - chosen[b]!)
    const answer = lookUp(
      order.map((index) => chosen[index]!),
      floor,
      work,
    )
    if (!('best' in answer) || answer.best.value < floor) return null
    const points = new Array<number>(chosen.length)
    for (const [place, index] of order.entries()) points[index] = answer.best.points[place]!
    return { value: answer.best.value, points }
  }
}

/** What the curves' best points at a price take and are worth together. */
interface Sum {
  price: number
  wire: number
  value: number
}

function sumAt(curves: Curves, chosen: readonly number[], price: number): Sum {
  const sum: Sum = { price, wire: 0, value: 0 }
  for (const curve of chosen) {
    const point = pointAtPrice(curves, curve, price)
    sum.wire += curves.wire[point]!
    sum.value += curves.value[point]!
  }
  return sum
}

const pointsAt = (curves: Curves, chosen: readonly number[], price: number): number[] =>
  chosen.map((curve) => pointAtPrice(curves, curve, price))

/** Some of the points chosen so far: what they take and are worth, and the last of them. */
interface Partial {
  wire: number
  value: number
  point: number
  before: Partial | null
}

/** The best choice of points that is worth at least `floor`, given a bound at a price for the upload. */
function bestWorth(
  curves: Curves,
  chosen: readonly number[],
  uploadKbps: number,
  { price, upper, floor }: { price: number; upper: number; floor: number },
  work: Work,
): Settled | null {
  const slack = upper - floor
  const tops = chosen.map((curve) => {
    const point = pointAtPrice(curves, curve, price)
    return curves.value[point]! - price * curves.wire[point]!
  })
  const options = chosen.map((curve, index) => {
    const points: number[] = []
    work.looks += (curves.first[curve + 1]! - curves.first[curve]!) / waysInALook
    for (let point = curves.first[curve]!; point < curves.first[curve + 1]!; point += 1)
      if (tops[index]! - curves.value[point]! + price * curves.wire[point]! <= slack)
        points.push(point)
    return { index, points, top: tops[index]! }
  })
  // Those with most points first, each to the half that is smaller so far.
  options.sort((a, b) => b.points.length - a.points.length)
  interface Half {
    size: number
    options: typeof options
  }
  const halves: [Half, Half] = [
    { size: 1, options: [] },
    { size: 1, options: [] },
  ]
  for (const option of options) {
    const half = halves[0].size <= halves[1].size ? halves[0] : halves[1]
    half.size *= option.points.length
    half.options.push(option)
  }
  const [left, right] = halves.map((half) =>
    partials(curves, half.options, { price, slack }, work),
  ) as [Partial[], Partial[]]

  // Both are sorted by wire rate and worth, so that each has one best match in the other.
  let best: [Partial, Partial] | null = null
  let highest = floor
  let match = right.length - 1
  for (const partial of left) {
    while (match >= 0 && partial.wire + right[match]!.wire > uploadKbps) match -= 1
    if (match < 0) break
    const total = partial.value + right[match]!.value
    if (total >= highest && (!best || total > highest)) {
      highest = total
      best = [partial, right[match]!]
    }
  }
  if (!best) return null
  const points: number[] = new Array<number>(chosen.length)
  best.forEach((partial, half) => {
    let at: Partial | null = partial
    for (const { index } of [...halves[half]!.options].reverse()) {
      points[index] = at!.point
      at = at!.before
    }
  })
  return { value: highest, points }
}

/** Every choice of points from some curves that falls short by no more than `slack`, without those that another beats. */
function partials(
  curves: Curves,
  options: readonly { points: readonly number[]; top: number }[],
  { price, slack }: { price: number; slack: number },
  work: Work,
): Partial[] {
  let front: Partial[] = [{ wire: 0, value: 0, point: -1, before: null }]
  let top = 0
  for (const { points, top: own } of options) {
    top += own
    const next: Partial[] = []
    work.looks += (front.length * points.length) / waysInALook
    for (const before of front)
      for (const point of points) {
        const wire = before.wire + curves.wire[point]!
        const value = before.value + curves.value[point]!
        if (top - value + price * wire <= slack) next.push({ wire, value, point, before })
      }
    next.sort((a, b) => a.wire - b.wire || b.value - a.value)
    let highest = -Infinity
    front = next.filter(({ value }) => {
      if (value <= highest) return false
      highest = value
      return true
    })
  }
  return front
}
