/** Under full scale: room for what a converter makes between samples (EBU R 128 asks for −1 dBTP). */
export const ceilingDecibels = -1
const lookAheadSeconds = 0.005
/** What comes out of it is so much older than what goes in. */
export const limiterDelaySeconds = lookAheadSeconds
const releaseSeconds = 0.12

/** Catmull and Rom (1974): what stands between `b` and `c`. */
function between(share: number, a: number, b: number, c: number, d: number): number {
  return Math.abs(
    b + 0.5 * share * (c - a + share * (2 * a - 5 * b + 4 * c - d + share * (3 * (b - c) + d - a))),
  )
}

/** The most that the polynomial makes of four samples of one height: the sum of its weights' sizes, halfway. */
const mostBetween = 1.25

/** Four times as many samples, by polynomials through four of them (ITU-R BT.1770, annex 2, asks for at least four times). */
const peakBetween = (a: number, b: number, c: number, d: number): number =>
  Math.max(between(0.25, a, b, c, d), between(0.5, a, b, c, d), between(0.75, a, b, c, d))

/**
 * Holds a pair of channels under the ceiling: both are turned down alike before a peak comes, and let go
 * slowly after it. Each sample's gain is the mean, over the look-ahead, of the least gain that any sample in
 * the look-ahead before needs, so that it is never more than its own. What comes out is what went in a
 * look-ahead before, left and right; the pair is written over by the next call.
 */
export function newLimiter(sampleRateHz: number): (left: number, right: number) => Float64Array {
  const length = Math.max(4, Math.round(lookAheadSeconds * sampleRateHz))
  const ceiling = 10 ** (ceilingDecibels / 20)
  const release = Math.exp(-1 / (releaseSeconds * sampleRateHz))
  const [lefts, rights] = [new Float64Array(length), new Float64Array(length)]
  /** The gain that each sample on its way needs. */
  const needed = new Float64Array(length).fill(1)
  const held = new Float64Array(length).fill(1)
  const out = new Float64Array(2)
  let [least, heldSum, hold, at] = [1, length, 1, 0]

  const back = (count: number): number => (at >= count ? at - count : at - count + length)

  /** Keeps the least of all; they are looked through only where the least itself goes. */
  function setNeed(index: number, need: number): void {
    const before = needed[index] as number
    needed[index] = need
    if (need <= least) least = need
    else if (before === least) least = leastOf(needed)
  }

  /** Puts a sample in the place of the oldest, and gives the highest that stands between it and those before. */
  function put(samples: Float64Array, value: number): number {
    samples[at] = value
    const a = samples[back(3)] as number
    const b = samples[back(2)] as number
    const c = samples[back(1)] as number
    const highest = Math.max(Math.abs(a), Math.abs(b), Math.abs(c), Math.abs(value))
    return highest * mostBetween <= ceiling
      ? highest
      : Math.max(Math.abs(value), Math.abs(c), peakBetween(a, b, c, value))
  }

  return (left, right) => {
    const [oldLeft, oldRight] = [lefts[at] as number, rights[at] as number]
    const peak = Math.max(put(lefts, left), put(rights, right))
    const need = peak > ceiling ? ceiling / peak : 1
    setNeed(at, need)
    // What stands between two samples belongs to both.
    if (need < 1) {
      setNeed(back(1), Math.min(needed[back(1)] as number, need))
      setNeed(back(2), Math.min(needed[back(2)] as number, need))
    }
    hold = Math.min(least, 1 - (1 - hold) * release)
    heldSum += hold - (held[at] as number)
    held[at] = hold
    at = at + 1 === length ? 0 : at + 1
    const gain = heldSum / length
    out[0] = oldLeft * gain
    out[1] = oldRight * gain
    return out
  }
}

function leastOf(values: Float64Array): number {
  let least = Infinity
  for (const value of values) least = Math.min(least, value)
  return least
}
