/** A curve through points: their places, ascending, and their values, which never fall. */
export interface Curve {
  places: readonly number[]
  values: readonly number[]
}

/** The slope at a point between two steps: their harmonic mean by length (Fritsch and Butland 1984), 0 at a flat one. */
function slopeBetween(
  left: number,
  leftLength: number,
  right: number,
  rightLength: number,
): number {
  if (left * right <= 0) return 0
  const all = 3 * (leftLength + rightLength)
  return all / ((2 * rightLength + leftLength) / left + (rightLength + 2 * leftLength) / right)
}

/** The slope at an end, from its own step and the next, such that nothing overshoots. */
function slopeAtEnd(own: number, ownLength: number, next: number, nextLength: number): number {
  const slope = ((2 * ownLength + nextLength) * own - ownLength * next) / (ownLength + nextLength)
  if (slope * own <= 0) return 0
  return own * next <= 0 && Math.abs(slope) > 3 * Math.abs(own) ? 3 * own : slope
}

/**
 * Reads a curve at a place by piecewise cubic Hermite interpolation that keeps it from falling (Fritsch
 * and Carlson 1980), as is usual for quality over the logarithm of the bitrate; level beyond its ends.
 */
export function monotoneCurve({ places, values }: Curve): (at: number) => number {
  const count = places.length
  const lengths = places.slice(1).map((place, index) => place - (places[index] as number))
  const steps = lengths.map(
    (length, index) => ((values[index + 1] as number) - (values[index] as number)) / length,
  )
  const [step, length] = [
    (index: number): number => steps.at(index) as number,
    (index: number): number => lengths.at(index) as number,
  ]
  const slopes = places.map((_, index) => {
    if (count < 3) return count < 2 ? 0 : step(0)
    if (index === 0) return slopeAtEnd(step(0), length(0), step(1), length(1))
    if (index === count - 1) return slopeAtEnd(step(-1), length(-1), step(-2), length(-2))
    return slopeBetween(step(index - 1), length(index - 1), step(index), length(index))
  })
  return (at) => {
    const above = places.findIndex((place) => place >= at)
    if (above <= 0) return values.at(above === 0 ? 0 : -1) as number
    const below = above - 1
    const width = length(below)
    const t = (at - (places[below] as number)) / width
    const [from, to] = [values[below] as number, values[above] as number]
    const [leaving, arriving] = [
      (slopes[below] as number) * width,
      (slopes[above] as number) * width,
    ]
    return (
      from * (1 + 2 * t) * (1 - t) ** 2 +
      leaving * t * (1 - t) ** 2 +
      to * t ** 2 * (3 - 2 * t) +
      arriving * t ** 2 * (t - 1)
    )
  }
}
