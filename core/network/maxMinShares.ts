/**
 * Shares a capacity so that nobody gets more than they ask for and nobody could get more without
 * taking it from one who has less: max-min fairness, by filling from the smallest demand up
 * (Bertsekas and Gallager, "Data Networks", 1992). Same unit and order as the demands.
 */
export function maxMinShares(demands: readonly number[], capacity: number): number[] {
  const order = demands.map((_, index) => index).sort((a, b) => demandAt(a) - demandAt(b))
  const shares = demands.map(() => 0)
  let left = Math.max(0, capacity)
  order.forEach((index, position) => {
    const share = Math.min(demandAt(index), left / (order.length - position))
    shares[index] = share
    left -= share
  })
  return shares

  function demandAt(index: number): number {
    return Math.max(0, demands[index] as number)
  }
}
