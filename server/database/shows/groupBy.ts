/** Sorts items into lists by a key, each in the order in which it came. */
export function groupBy<T>(items: readonly T[], keyOf: (item: T) => unknown): Map<string, T[]> {
  const groups = new Map<string, T[]>()
  for (const item of items) {
    const key = String(keyOf(item))
    const group = groups.get(key)
    if (group) group.push(item)
    else groups.set(key, [item])
  }
  return groups
}
