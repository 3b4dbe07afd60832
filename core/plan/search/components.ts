import type { Demand, Problem } from '../problem/problem'

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
