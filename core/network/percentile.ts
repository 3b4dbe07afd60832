/**
 * The p-th percentile (0 to 100) by linear interpolation between order statistics, "type 7" of
 * Hyndman and Fan 1996, "Sample Quantiles in Statistical Packages".
 * Throws a RangeError for no values or a p outside 0 to 100.
 */
export function percentile(values: readonly number[], p: number): number {
  if (values.length === 0) throw new RangeError('A percentile needs at least one value')
  if (!(p >= 0 && p <= 100)) throw new RangeError(`${p} is not between 0 and 100`)
  const sorted = [...values].sort((a, b) => a - b)
  const position = ((sorted.length - 1) * p) / 100
  const below = sorted[Math.floor(position)] as number
  const above = sorted[Math.ceil(position)] as number
  return below + (above - below) * (position - Math.floor(position))
}
