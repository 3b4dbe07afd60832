import { uniformInt } from 'pure-rand/distribution/uniformInt'
import { xoroshiro128plus } from 'pure-rand/generator/xoroshiro128plus'
import { compareShortfalls, type Problem } from '../problem/problem'
import type { Encode, EncodeUses } from './planState'
import type { Served } from './groups'
import { type PartialPlan, stepsByOwner, type UsedEncode, withOwner } from './takingIn'

/** The same show is always searched the same way. */
const seed = 1

/** So many owners are taken out at once where they are drawn one by one, and encodes where whole ones are. */
const owners = { fewest: 2, most: 14 } as const
const encodes = { fewest: 1, most: 3 } as const

/** Owners are taken in by their priority times a chance between these two, in hundredths. */
const chance = { least: 30, most: 130 } as const

/** What a plan falls short of. */
interface Shortfall {
  mustKeepLeftOut: number
  leftOutWeight: number
  belowFloor: number
}

/** Above 0 where the first falls less short. */
const compare = (a: Shortfall, b: Shortfall): number =>
  b.mustKeepLeftOut - a.mustKeepLeftOut || compareShortfalls(a, b)

export interface NeighbourhoodResult {
  encodes: Encode[] | null
  /** Whom the encodes of all plans on the way serve together, of the last plans first. */
  served: Served[]
}

export interface NeighbourhoodLimits {
  rounds: number
  /** What is no worse than this is looked no further for. */
  enough?: { leftOutWeight: number; belowFloor: number }
}

/**
 * A plan that leaves out less, or as much and has fewer below the floor, found by a large neighbourhood
 * search (Shaw 1998, as "ruin and recreate" by Schrimpf et al. 2000; from memory): again and again some
 * owners are taken out, and all who are out are taken in anew, in another order; what is no worse is
 * kept. Every encode has the lowest bitrate that serves. null where something is still left out that must
 * be kept. It proves nothing. Yields the best plan so far after every round, so that it can be stopped.
 */
export function* lessShort(
  uses: EncodeUses,
  start: readonly Encode[] | null,
  { rounds, enough = { leftOutWeight: 0, belowFloor: 0 } }: NeighbourhoodLimits,
): Generator<Encode[] | null, NeighbourhoodResult> {
  const { problem } = uses
  const all = stepsByOwner(problem)
  const random = xoroshiro128plus(seed)
  const between = ({ fewest, most }: { fewest: number; most: number }): number =>
    uniformInt(random, fewest, Math.max(fewest, most))
  const drawn = <T>(list: readonly T[], count: number): T[] =>
    Array.from({ length: count }, () => list[uniformInt(random, 0, list.length - 1)]!)
  const isHeads = (): boolean => uniformInt(random, 0, 1) === 1

  let best: PartialPlan = (start ?? []).map((encode) => [encode, uses.of(encode)!] as const)
  let shortfall = shortfallOf(problem, best)
  const encodesIfKept = (): Encode[] | null =>
    shortfall.mustKeepLeftOut > 0 ? null : best.map(([encode]) => encode)
  let shown = encodesIfKept()
  const served = new Map<string, Served>()
  const remember = (plan: PartialPlan): void => {
    for (const [encode] of plan) {
      const key = encode.serves
        .map(({ demand, relay }) => `${demand}:${relay ?? ''}`)
        .sort()
        .join()
      served.delete(key)
      served.set(key, encode.serves)
    }
  }
  remember(best)
  const isEnough = (): boolean => compare(shortfall, { mustKeepLeftOut: 0, ...enough }) >= 0
  for (let round = 0; round < rounds && !isEnough(); round += 1) {
    const ruined =
      best.length > 0 && isHeads()
        ? drawn(best, between(encodes)).flatMap(([{ serves }]) =>
            serves.map(({ demand }) => demand),
          )
        : drawn(
            all,
            between({ ...owners, most: Math.min(owners.most, Math.floor(all.length / 2)) }),
          ).flat()
    const left = without(uses, best, ruined)
    const tries = isHeads() ? [true, false] : [false]
    const inOrder = unserved(all, left)
      .map((steps) => {
        const { priority, mustKeep } = problem.demands[steps[0]!]!
        return { steps, mustKeep, weight: priority * uniformInt(random, chance.least, chance.most) }
      })
      .sort((a, b) => Number(b.mustKeep) - Number(a.mustKeep) || b.weight - a.weight)
    const next = inOrder.reduce(
      (plan, { steps }) => withOwner(uses, plan, steps, tries) ?? plan,
      left,
    )
    const ofNext = shortfallOf(problem, next)
    const difference = compare(ofNext, shortfall)
    // Of two that fall as short the one that takes less upload leaves more room for others.
    if (difference > 0 || (difference === 0 && ofNext.uploadKbps <= shortfall.uploadKbps)) {
      best = next
      remember(best)
      shortfall = ofNext
      if (difference > 0) shown = encodesIfKept()
    }
    yield shown
  }
  return { encodes: encodesIfKept(), served: [...served.values()].reverse() }
}

function servedBy(plan: PartialPlan): Set<number> {
  const served = new Set<number>()
  for (const [{ serves }] of plan) for (const { demand } of serves) served.add(demand)
  return served
}

/** The owners that a plan does not serve. */
function unserved(all: readonly (readonly number[])[], plan: PartialPlan): (readonly number[])[] {
  const served = servedBy(plan)
  return all.filter(([first]) => !served.has(first!))
}

function shortfallOf({ demands }: Problem, plan: PartialPlan): Shortfall & { uploadKbps: number } {
  const served = servedBy(plan)
  const leftOut = new Map<string, Problem['demands'][number]>()
  demands.forEach((demand, index) => {
    if (!served.has(index)) leftOut.set(demand.owner, demand)
  })
  const shortfall = { mustKeepLeftOut: 0, leftOutWeight: 0, belowFloor: 0, uploadKbps: 0 }
  for (const { mustKeep, priority, count } of leftOut.values()) {
    shortfall.mustKeepLeftOut += Number(mustKeep)
    shortfall.leftOutWeight += priority * count
  }
  for (const [, use] of plan) {
    shortfall.belowFloor += use.below
    shortfall.uploadKbps += use.uploadKbps
  }
  return shortfall
}

/**
 * The plan without some demands, and all others of their owners. The rest of an encode goes on at the
 * lowest bitrate that serves it; where none does, it is taken out too.
 */
function without(uses: EncodeUses, plan: PartialPlan, demands: readonly number[]): PartialPlan {
  const { demands: all } = uses.problem
  const gone = new Set(demands.map((demand) => all[demand]!.owner))
  const left: UsedEncode[] = []
  for (const used of plan) {
    const [encode, { below }] = used
    const serves = encode.serves.filter(({ demand }) => !gone.has(all[demand]!.owner))
    if (serves.length === 0) continue
    const own =
      serves.length === encode.serves.length
        ? used
        : atLowestBitrate(uses, { ...encode, serves }, below === 0)
    if (!own) return without(uses, plan, [...demands, ...serves.map(({ demand }) => demand)])
    left.push(own)
  }
  return left
}

function atLowestBitrate(
  uses: EncodeUses,
  encode: Encode,
  isAboveFloor: boolean,
): UsedEncode | null {
  const row = uses.rowFor(encode.serves, encode.shape)
  const bitrate = row ? uses.lowestBitrate(row, isAboveFloor) : -1
  const lowest = { ...encode, bitrate }
  const use = bitrate < 0 ? null : uses.of(lowest)
  return use && [lowest, use]
}
