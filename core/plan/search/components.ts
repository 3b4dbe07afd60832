import { maxInSet } from './bitSets'
import type { Served } from './groups'
import { type Rank, ranksByPriority } from './priorityOrder'
import type { Demand, Problem } from '../problem/problem'

/**
 * Of more demands than this those that are unlike each other could be served in too many ways to look at
 * at first; of no more than so many classes of like ones as many as can be told apart.
 */
const maxUnlike = { first: 30, second: maxInSet } as const
const maxClasses = 8
export type Look = keyof typeof maxUnlike

/**
 * The components as they are searched. One of too many demands is cut, so that only what is known to be
 * served together in some plan, or stands near each other, shares; owners stay whole, those that only a
 * relay reaches first.
 */
export function searchedComponents(
  problem: Problem,
  look: Look = 'first',
  known: readonly Served[] = [],
): SearchedComponent[] {
  const ranks = ranksByPriority(problem)
  return componentsOf(problem).flatMap((demands): SearchedComponent[] => {
    const classes = new Set(demands.map((demand) => ranks[demand]!.alike)).size
    const isSearchedWhole =
      demands.length <= maxUnlike[look] || (demands.length <= maxInSet && classes <= maxClasses)
    return isSearchedWhole
      ? [{ demands, ranks, isWhole: true }]
      : cut(problem, demands, maxUnlike[look], known).map((piece) => ({
          demands: piece,
          ranks,
          isWhole: false,
        }))
  })
}

export interface SearchedComponent {
  demands: readonly number[]
  /** Of every demand of the problem. */
  ranks: readonly Rank[]
  /** Whether it is all of what depends on each other. */
  isWhole: boolean
}

/** Whether a second look would see more of what depends on each other at once. */
export const isCutAtFirst = (problem: Problem): boolean =>
  problem.demands.length > maxUnlike.first &&
  searchedComponents(problem).some(({ isWhole }) => !isWhole)

function cut(
  problem: Problem,
  demands: readonly number[],
  mostOfAPiece: number,
  known: readonly Served[],
): number[][] {
  const units = new Map<string, number[]>()
  for (const demand of demands) {
    const { owner } = problem.demands[demand]!
    units.set(owner, [...(units.get(owner) ?? []), demand])
  }
  /** By owner, those that are cut off together; one list for all of them. */
  const unitOf = new Map(units)
  for (const served of known) {
    const owners = served.map(({ demand }) => problem.demands[demand]!.owner)
    const together = [...new Set(owners.flatMap((owner) => unitOf.get(owner) ?? []))]
    if (together.length > mostOfAPiece) continue
    for (const demand of together) unitOf.set(problem.demands[demand]!.owner, together)
  }
  const isFedOnly = ([first]: readonly number[]): boolean => !problem.demands[first!]!.direct
  const inOrder = [...new Set(unitOf.values())].sort(
    (a, b) => Number(isFedOnly(b)) - Number(isFedOnly(a)) || a[0]! - b[0]!,
  )
  const pieces: number[][] = [[]]
  for (const unit of inOrder) {
    if (pieces.at(-1)!.length + unit.length > mostOfAPiece) pieces.push([])
    pieces.at(-1)!.push(...unit)
  }
  return pieces
}

/** Whether two demands could ever be served by one encode, by what of them is not chosen. */
function couldShare(a: Demand, b: Demand): boolean {
  return (
    a.shares &&
    b.shares &&
    a.picture === b.picture &&
    (a.sound === null || b.sound === null || a.sound === b.sound)
  )
}

/**
 * Groups of demands that depend on each other in what they share: an encode, a relay, or being the
 * steps of one ladder. Between groups only the resources are shared.
 */
export function componentsOf({ demands, relays }: Problem): number[][] {
  const parent = demands.map((_, index) => index)
  const root = (index: number): number => {
    let at = index
    while (parent[at] !== at) at = parent[at] as number
    return at
  }
  const join = (a: number, b: number): void => {
    parent[root(a)] = root(b)
  }
  demands.forEach((a, i) => {
    demands.slice(0, i).forEach((b, j) => {
      if (a.owner === b.owner || couldShare(a, b)) join(i, j)
    })
  })
  relays.forEach((relay, index) => {
    const reached = demands.flatMap((demand, i) => (demand.relays.includes(index) ? [i] : []))
    const [first] = reached
    if (first === undefined) return
    for (const other of reached) join(first, other)
    demands.forEach((demand, i) => {
      const isAlike =
        demand.shares &&
        demand.picture === relay.picture &&
        (demand.sound === null || demand.sound === relay.sound)
      if (isAlike) join(first, i)
    })
  })
  const groups = new Map<number, number[]>()
  demands.forEach((_, index) => {
    const key = root(index)
    groups.set(key, [...(groups.get(key) ?? []), index])
  })
  return [...groups.values()]
}
