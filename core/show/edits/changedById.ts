/** A list in which one thing is changed; all others stay the very same. */
export const changedById = <Item extends { id: string }>(
  items: readonly Item[],
  id: string,
  change: (item: Item) => Item,
): Item[] => items.map((item) => (item.id === id ? change(item) : item))
