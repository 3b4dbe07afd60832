import { encoderLoad } from '../media'
import type { Codec, Effort, Throughput } from '../show'

/** One of several different encodes that ran at once, each as fast as it could. */
export interface MixedRun {
  codec: Codec
  effort: Effort
  width: number
  height: number
  framesPerSecond: number
}

/**
 * The share of the device that a mix used by its sum, 1 = all of it: each encode's frames at what one
 * of its frames costs alone. null where the cost of one is not known.
 */
export function summedLoad(
  mix: readonly MixedRun[],
  throughputs: readonly Throughput[],
): number | null {
  const loads = mix.map((run) => {
    const cost = throughputs.find(
      ({ codec, effort }) => codec === run.codec && effort === run.effort,
    )
    if (!cost) return null
    const second = { width: run.width, height: run.height, framesPerSecond: 1 as never }
    return encoderLoad(second, cost) * run.framesPerSecond
  })
  return loads.some((load) => load === null)
    ? null
    : loads.reduce<number>((sum, load) => sum + (load ?? 0), 0)
}

const maxFactor = 4

/** Encodes that ran at once, and the share of the device that they really took, 1 = all of it. */
export interface Mix {
  runs: readonly MixedRun[]
  deviceShare: number
}

const median = (values: readonly number[]): number => {
  const sorted = [...values].sort((a, b) => a - b)
  const middle = (sorted.length - 1) / 2
  return ((sorted[Math.floor(middle)] ?? 0) + (sorted[Math.ceil(middle)] ?? 0)) / 2
}

/**
 * By how much several encodes at once take more of a device than their sum says: the median over all
 * mixes, since a single one hangs much on chance. Never below 1: that most did better is chance too, or
 * the costs alone were measured too high. undefined without a mix.
 */
export function togetherFactor(
  mixes: readonly Mix[],
  throughputs: readonly Throughput[],
): number | undefined {
  const factors = mixes.flatMap(({ runs, deviceShare }) => {
    const load = summedLoad(runs, throughputs)
    return load === null || load <= 0 ? [] : [deviceShare / load]
  })
  if (factors.length === 0) return undefined
  return Math.min(maxFactor, Math.max(1, Number(median(factors).toFixed(2))))
}
