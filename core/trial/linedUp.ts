/** Where a stretch of frames lies among those that it was made from. */
export interface LinedUp {
  /** The frame of the original that the first of the stretch is. */
  start: number
  /** Mean difference of their samples, 0 to 255. */
  difference: number
}

/** Frames that differ by more than this on average show something else. */
const maxDifference = 16

const meanDifference = (a: Uint8Array, b: Uint8Array): number => {
  let sum = 0
  for (let sample = 0; sample < a.length; sample += 1)
    sum += Math.abs((a[sample] as number) - (b[sample] as number))
  return sum / a.length
}

/**
 * Lines up a stretch of small grey frames with the frames that it was made from, which are shown again
 * and again: `every` frames of the original stand for one of the stretch. What a codec makes of a frame
 * changes such small ones little, while a moving picture differs from frame to frame. null where nothing
 * is alike, or either has no frames.
 */
export function linedUp(
  stretch: readonly Uint8Array[],
  original: readonly Uint8Array[],
  every: number,
): LinedUp | null {
  let best: LinedUp | null = null
  if (stretch.length === 0) return null
  for (let start = 0; start < original.length; start += 1) {
    let sum = 0
    // What is worse already needs no further look.
    const bound = (best?.difference ?? maxDifference) * stretch.length
    for (let index = 0; index < stretch.length && sum < bound; index += 1)
      sum += meanDifference(
        stretch[index] as Uint8Array,
        original[(start + index * every) % original.length] as Uint8Array,
      )
    const difference = sum / stretch.length
    if (sum < bound) best = { start, difference }
  }
  return best
}
