import { type Codec, type Effort, efforts, type Throughput } from '../show'

/** One run of an encoder: so many alike at once, each free to go as fast as it can. */
export interface EncodingRun {
  codec: Codec
  effort: Effort
  width: number
  height: number
  atOnce: number
  /** Of all that ran at once, together. */
  framesPerSecond: number
  /** The share of the device that they took, 1 = all of it; absent where only the clock tells. */
  deviceShare?: number
}

/** How fast the same pictures are decoded alone, which every encode has to do first. */
export interface DecodingRun {
  width: number
  height: number
  framesPerSecond: number
}

const pixelsOf = ({ width, height }: { width: number; height: number }): number => width * height

/** Seconds of the device that one frame takes at the fastest that was seen; without decoding it. */
function secondsAFrame(
  runs: readonly EncodingRun[],
  decoding: readonly DecodingRun[],
  size: { width: number; height: number },
): number | null {
  const own = runs.filter((run) => pixelsOf(run) === pixelsOf(size))
  const best = Math.max(0, ...own.map(({ framesPerSecond }) => framesPerSecond))
  if (best === 0) return null
  const decoded = decoding.find((run) => pixelsOf(run) === pixelsOf(size))?.framesPerSecond
  const whole = 1 / best
  // An encode that is nearly as fast as decoding is not free: at least a tenth of it is its own.
  return decoded ? Math.max(whole - 1 / decoded, whole / 10) : whole
}

/** Rounded to so many digits that count: what follows them is chance. */
const rounded = (value: number, digits = 3): number => Number(value.toPrecision(digits))

/**
 * What a frame costs at one codec and effort, as a fixed part and a part by its pixels, from runs at
 * two sizes: t = fixed + pixels / throughput. Where only one size was measured, or the larger was no
 * dearer, all of it goes by pixels. null where nothing was measured.
 */
export function encodingCost(
  runs: readonly EncodingRun[],
  decoding: readonly DecodingRun[],
): Pick<Throughput, 'megapixelsPerSecond' | 'millisecondsAFrame'> | null {
  const sizes = [...new Map(runs.map((run) => [pixelsOf(run), run])).values()].sort(
    (a, b) => pixelsOf(a) - pixelsOf(b),
  )
  const points = sizes.flatMap((size) => {
    const seconds = secondsAFrame(runs, decoding, size)
    return seconds === null ? [] : [{ megapixels: pixelsOf(size) / 1e6, seconds }]
  })
  const largest = points.at(-1)
  if (!largest) return null
  const smallest = points[0] as typeof largest
  const byPixels = { megapixelsPerSecond: rounded(largest.megapixels / largest.seconds) }
  const rise = largest.seconds - smallest.seconds
  if (points.length < 2 || rise <= 0) return byPixels
  const throughput = (largest.megapixels - smallest.megapixels) / rise
  const fixedSeconds = largest.seconds - largest.megapixels / throughput
  if (fixedSeconds <= 0) return byPixels
  return {
    megapixelsPerSecond: rounded(throughput),
    millisecondsAFrame: rounded(fixedSeconds * 1000),
  }
}

/** The costs of every codec and effort that was run, in the order of the tables. */
export function throughputsFrom(
  runs: readonly EncodingRun[],
  decoding: readonly DecodingRun[],
): Throughput[] {
  const codecs = [...new Set(runs.map(({ codec }) => codec))]
  return codecs.flatMap((codec) =>
    efforts.flatMap((effort) => {
      const own = runs.filter((run) => run.codec === codec && run.effort === effort)
      const cost = encodingCost(own, decoding)
      return cost ? [{ codec, effort, ...cost }] : []
    }),
  )
}
