/** Under full scale: room for what a converter makes between samples (EBU R 128 asks for −1 dBTP). */
export const ceilingDecibels = -1
const lookAheadSeconds = 0.005
const releaseSeconds = 0.12

/** Four times as many samples, by polynomials through four of them: what stands between two (ITU-R BT.1770, annex 2, asks for at least four times). */
function peakBetween(a: number, b: number, c: number, d: number): number {
  let peak = Math.abs(c)
  for (const share of [0.25, 0.5, 0.75]) {
    // Catmull and Rom (1974).
    const value =
      b +
      0.5 * share * (c - a + share * (2 * a - 5 * b + 4 * c - d + share * (3 * (b - c) + d - a)))
    peak = Math.max(peak, Math.abs(value))
  }
  return peak
}

/**
 * Holds a pair of channels under the ceiling: both are turned down alike before a peak comes, and let go
 * slowly after it. Each sample's gain is the mean, over the look-ahead, of the least gain that any sample in
 * the look-ahead before needs, so that it is never more than its own. What comes out is what went in a
 * look-ahead before.
 */
export function newLimiter(
  sampleRateHz: number,
): (left: number, right: number) => readonly [number, number] {
  const length = Math.max(4, Math.round(lookAheadSeconds * sampleRateHz))
  const ceiling = 10 ** (ceilingDecibels / 20)
  const release = Math.exp(-1 / (releaseSeconds * sampleRateHz))
  const [lefts, rights] = [new Float64Array(length), new Float64Array(length)]
  /** The gain that each sample on its way needs, and how many of them need any. */
  const needed = new Float64Array(length).fill(1)
  let needing = 0
  const held = new Float64Array(length).fill(1)
  let [heldSum, hold, at] = [length, 1, 0]

  function setNeed(index: number, need: number): void {
    needing += Number(need < 1) - Number((needed[index] as number) < 1)
    needed[index] = need
  }
  const before = (samples: Float64Array, back: number): number =>
    samples[(at - back + length) % length] as number

  return (left, right) => {
    const [outLeft, outRight] = [lefts[at] as number, rights[at] as number]
    lefts[at] = left
    rights[at] = right
    const peak = Math.max(
      ...[Math.abs(left), Math.abs(right)],
      peakBetween(before(lefts, 3), before(lefts, 2), before(lefts, 1), left),
      peakBetween(before(rights, 3), before(rights, 2), before(rights, 1), right),
    )
    const need = peak > ceiling ? ceiling / peak : 1
    setNeed(at, need)
    // What stands between two samples belongs to both.
    for (const back of need < 1 ? [1, 2] : []) {
      const index = (at - back + length) % length
      setNeed(index, Math.min(needed[index] as number, need))
    }
    const least = needing === 0 ? 1 : Math.min(...needed)
    hold = Math.min(least, 1 - (1 - hold) * release)
    heldSum += hold - (held[at] as number)
    held[at] = hold
    at = (at + 1) % length
    const gain = heldSum / length
    return [outLeft * gain, outRight * gain]
  }
}
