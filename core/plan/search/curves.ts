/**
 * What encodes are worth at each of their bitrates, kept as arrays side by side. The points of a
 * curve take more of the upload one by one, and are worth more; what another point beats is left out.
 */
export interface Curves {
  /** The points of curve i are those from `first[i]` on, up to `first[i + 1]`. */
  first: Int32Array
  /** Whole kb/s. */
  wire: Int32Array
  value: Float64Array
  /** Index into the bitrates of the problem; -1 for what is left out. */
  bitrate: Int32Array
  /** Likewise for the points on a curve's concave hull: one of them is best at any price of the upload. */
  firstOfHull: Int32Array
  hull: Int32Array
  /** What each kb/s more from the hull's last point to this one gains; falling along the hull, from infinity on. */
  slope: Float64Array
  /** For each curve where on the hull the last look runToEnd, which is where the next begins. */
  lastCorner: Int32Array
}

/** The point of a curve that is worth most where each kb/s costs so much; at a price without end the first. */
export function pointAtPrice(curves: Curves, curve: number, price: number): number {
  const { firstOfHull, hull, slope, lastCorner } = curves
  if (price === Infinity) return hull[firstOfHull[curve]!]!
  const end = firstOfHull[curve + 1]!
  // Prices change little from one look to the next, so that it is seldom far away.
  let corner = lastCorner[curve]!
  while (slope[corner]! <= price) corner -= 1
  while (corner + 1 < end && slope[corner + 1]! > price) corner += 1
  lastCorner[curve] = corner
  return hull[corner]!
}

export const minPoint = (curves: Curves, curve: number): number => curves.first[curve]!

/** There is room for so many points at first. */
const defaultPoints = 16_384
/** From so many on it takes a while to make room for more; it is made while a share of it is still free. */
const manyPoints = 100_000
const shareBeforeMore = 0.9

/** Collects curves; every number must be whole. */
export class CurveWriter {
  private wire = new Int32Array(defaultPoints)
  private value = new Float64Array(defaultPoints)
  private bitrate = new Int32Array(defaultPoints)
  private hull = new Int32Array(defaultPoints)
  private slope = new Float64Array(defaultPoints)
  private readonly first: number[] = [0]
  private readonly firstOfHull: number[] = [0]
  /** Where the curve being written begins. */
  private from = 0
  private points = 0
  private corners = 0

  /** Adds a point to the curve being written; its wire rate may not be less than the last one's. */
  add(wire: number, value: number, bitrate: number): void {
    const last = this.points - 1
    if (last >= this.from) {
      if (this.value[last]! >= value) return
      if (wire === this.wire[last]) this.points = last
    }
    if (this.points === this.wire.length) {
      this.wire = twice(this.wire)
      this.value = twice(this.value)
      this.bitrate = twice(this.bitrate)
      this.hull = twice(this.hull)
      this.slope = twice(this.slope)
    }
    this.wire[this.points] = wire
    this.value[this.points] = value
    this.bitrate[this.points] = bitrate
    this.points += 1
  }

  /**
   * Makes room for more before the last of it is taken, an array at a time: all of them at once take
   * too long where there are many points. Yields between them, so that it can be stopped.
   */
  *makingRoom(): Generator<void, void> {
    const { length } = this.wire
    if (length < manyPoints || this.points < length * shareBeforeMore) return
    this.value = twice(this.value)
    yield
    this.bitrate = twice(this.bitrate)
    yield
    this.hull = twice(this.hull)
    yield
    this.slope = twice(this.slope)
    yield
    this.wire = twice(this.wire)
  }

  /** Ends the curve and returns its number; null where it has no point. */
  end(): number | null {
    if (this.points === this.from) return null
    const { wire, value, hull, slope } = this
    const start = this.corners
    let corners = start
    for (let point = this.from; point < this.points; point += 1) {
      let gain = Infinity
      while (corners > start) {
        const last = hull[corners - 1]!
        gain = (value[point]! - value[last]!) / (wire[point]! - wire[last]!)
        if (gain < slope[corners - 1]!) break
        corners -= 1
        gain = Infinity
      }
      hull[corners] = point
      slope[corners] = gain
      corners += 1
    }
    this.corners = corners
    this.from = this.points
    this.firstOfHull.push(corners)
    return this.first.push(this.points) - 2
  }

  finish(): Curves {
    return {
      first: Int32Array.from(this.first),
      wire: this.wire.subarray(0, this.points),
      value: this.value.subarray(0, this.points),
      bitrate: this.bitrate.subarray(0, this.points),
      firstOfHull: Int32Array.from(this.firstOfHull),
      hull: this.hull.subarray(0, this.corners),
      slope: this.slope.subarray(0, this.corners),
      lastCorner: Int32Array.from(this.firstOfHull.slice(0, -1)),
    }
  }
}

function twice<T extends Int32Array | Float64Array>(old: T): T {
  const larger = new (old.constructor as new (length: number) => T)(old.length * 2)
  larger.set(old)
  return larger
}

export const noCurves: Curves = new CurveWriter().finish()
