/**
 * Shares a capacity among demands max-min, in place of the demands, for the innermost loop: `order`
 * is a list of the same length that is sorted by it. As `maxMinShares` in the network room, which
 * the tests hold it against.
 */
export function shareOut(demands: Float64Array, order: Uint16Array, capacity: number): void {
  const count = demands.length
  // Insertion sort: the order hardly changes from step to step.
  for (let place = 1; place < count; place += 1) {
    const index = order[place] as number
    const demand = demands[index] as number
    let at = place - 1
    while (at >= 0 && (demands[order[at] as number] as number) > demand) {
      order[at + 1] = order[at] as number
      at -= 1
    }
    order[at + 1] = index
  }
  let left = Math.max(0, capacity)
  for (let place = 0; place < count; place += 1) {
    const index = order[place] as number
    const share = Math.min(demands[index] as number, left / (count - place))
    demands[index] = share
    left -= share
  }
}
