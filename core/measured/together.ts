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

/**
 * By how much several encodes at once take more of a device than their sum says: a mix that keeps all
 * of it busy should come to 1, and what it falls short of that is lost between them. Never below 1:
 * that a mix did better is chance, or the costs alone were measured too high. undefined without a mix.
 */
export function togetherFactor(
  mixes: readonly (readonly MixedRun[])[],
  throughputs: readonly Throughput[],
): number | undefined {
  const loads = mixes.flatMap((mix) => {
    const load = summedLoad(mix, throughputs)
    return load === null || load <= 0 ? [] : [load]
  })
  if (loads.length === 0) return undefined
  const mean = loads.reduce((sum, load) => sum + load, 0) / loads.length
  return Math.min(maxFactor, Math.max(1, Number((1 / mean).toFixed(2))))
}
