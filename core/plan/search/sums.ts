/*
 * Sums over all bitrates, each in a loop of its own over nothing but numbers: they are run for every
 * group and shape there is, and such loops are compiled early and stay compiled.
 */

/** Adds amounts, the first of them for place `offset`, at the places from `first` up to `end`; -1 where either is below 0. */
export function addAccepted(
  sums: Int32Array,
  amounts: Int32Array,
  { offset, first, end }: { offset: number; first: number; end: number },
): void {
  for (let at = first; at < end; at += 1) {
    const amount = amounts[at - offset]!
    const sum = sums[at]!
    // Below 0 where either is.
    sums[at] = (amount | sum) < 0 ? -1 : sum + amount
  }
}

/** Adds amounts at the places from `first` up to `end`. */
export function addTo(sums: Int32Array, amounts: Int32Array, first: number, end: number): void {
  for (let at = first; at < end; at += 1) sums[at]! += amounts[at]!
}
