/** Mean size of keyframes and B-frames against the mean frame; our own figures, measured on real encodes. */
const keyframeTimes = 5
const bFrameTimes = 0.5

/** The frames from one keyframe to the next, each as a multiple of the mean frame; they add up to their count. */
export function pictureGroup(frames: number, bFrames: number): Float64Array {
  const sizes = new Float64Array(Math.max(1, frames))
  if (frames <= 1) return sizes.fill(1)
  const isB = (index: number): boolean => index % (bFrames + 1) !== 0
  let bCount = 0
  for (let index = 1; index < frames; index += 1) if (isB(index)) bCount += 1
  const pCount = frames - 1 - bCount
  const key = Math.min(keyframeTimes, frames / 2)
  const rest = frames - key
  // What P-frames weigh so that the whole comes to the bitrate.
  const p = rest / (pCount + bFrameTimes * bCount)
  for (let index = 1; index < frames; index += 1) sizes[index] = isB(index) ? p * bFrameTimes : p
  sizes[0] = key
  return sizes
}
