import { countedSamples } from '../network'
import type { Line, LineSample, Medium } from '../show'
import { type MediumClass, mediumClasses } from './mediumTable'

/** A line as chance makes it, night by night; rates in kb/s. */
export interface LineModel extends MediumClass {
  /** What was measured, each as likely as its weight says. */
  levels: { kbps: number; weight: number }[]
  medium: Medium
  /** What was estimated, from how many values, and what is taken from the class table. */
  basis: string[]
}

const dayHours = 24
/** Measurements this near to the hour of the show count for it, where there are enough. */
const nearHours = 2
const enoughNear = 5
/** So many seconds in a row say how a line wanders; fewer say nothing. */
const enoughInARow = 20

const hourOf = (instant: string): number => {
  const at = new Date(instant)
  return at.getUTCHours() + at.getUTCMinutes() / 60
}
const apart = (a: number, b: number): number => {
  const difference = Math.abs(a - b) % dayHours
  return Math.min(difference, dayHours - difference)
}

/** Runs of measurements second by second, in order of time; kb/s. */
export function secondsInARow(samples: readonly LineSample[]): number[][] {
  const sorted = [...samples].sort((a, b) => a.measuredAt.localeCompare(b.measuredAt))
  const runs: number[][] = []
  let before = -Infinity
  for (const { measuredAt, uploadKbps } of sorted) {
    const at = Date.parse(measuredAt)
    if (at - before > 2000 || at === before) runs.push([])
    runs.at(-1)?.push(uploadKbps)
    before = at
  }
  return runs.filter((run) => run.length >= enoughInARow)
}

/**
 * Deviation (share of the mean) and inertia of first-order autoregressive runs, by their lag-one
 * autocorrelation (Yule and Walker; Box and Jenkins). Stalled seconds are outages and left out.
 */
export function wanderOf(runs: readonly (readonly number[])[]): {
  deviation: number
  inertia: number
} {
  let squares = 0
  let products = 0
  let count = 0
  let pairs = 0
  for (const run of runs) {
    const moving = run.filter((kbps) => kbps > 0)
    const mean = moving.reduce((sum, kbps) => sum + kbps, 0) / Math.max(1, moving.length)
    run.forEach((kbps, index) => {
      if (kbps === 0) return
      const here = kbps / mean - 1
      squares += here * here
      count += 1
      const next = run[index + 1]
      if (next === undefined || next === 0) return
      products += here * (next / mean - 1)
      pairs += 1
    })
  }
  if (count < 2 || squares === 0) return { deviation: 0, inertia: 0 }
  const variance = squares / count
  const inertia = pairs === 0 ? 0 : products / pairs / variance
  return { deviation: Math.sqrt(variance), inertia: Math.min(0.99, Math.max(0, inertia)) }
}

/** Outages among seconds in a row: how often they begin and how long they last; null where none did. */
export function outagesOf(runs: readonly (readonly number[])[]): MediumClass['outages'] | null {
  let stalled = 0
  let begun = 0
  let seconds = 0
  for (const run of runs)
    run.forEach((kbps, index) => {
      seconds += 1
      if (kbps > 0) return
      stalled += 1
      if (index === 0 || run[index - 1] !== 0) begun += 1
    })
  if (begun === 0) return null
  return { everySeconds: (seconds - stalled) / begun, lengthSeconds: stalled / begun }
}

/** Fits a line to its counted measurements. `startsAtHour` is the hour of the show in UTC. */
export function lineModelOf(line: Line, startsAtHour: number): LineModel {
  const counted = countedSamples(line)
  const medium = line.medium ?? counted[0]?.medium ?? 'cable'
  const own = mediumClasses[medium]
  const moving = counted.filter(({ uploadKbps }) => uploadKbps > 0)
  const near = moving.filter(
    ({ measuredAt }) => apart(hourOf(measuredAt), startsAtHour) <= nearHours,
  )
  const chosen = near.length >= enoughNear ? near : moving
  const runs = secondsInARow(line.samples.filter((sample) => sample.medium === medium))
  const secondCount = runs.reduce((sum, run) => sum + run.length, 0)
  const wander = runs.length > 0 ? wanderOf(runs) : null
  const outages = outagesOf(runs)
  const basis = [
    chosen === near
      ? `The level of a night is drawn from the ${near.length} measurements within two hours of the show's.`
      : `The level of a night is drawn from all ${moving.length} measurements, of whatever hour.`,
    wander
      ? `How it wanders comes from ${secondCount} seconds measured in a row: ${Math.round(100 * wander.deviation)} % to either side.`
      : `How it wanders is the usual of ${medium}: ${Math.round(100 * own.deviation)} % to either side; nothing was measured second by second.`,
    outages
      ? `Outages come from the stalled seconds among them: one in ${Math.round(outages.everySeconds)} s, of ${outages.lengthSeconds.toFixed(1)} s.`
      : `Outages are the usual of ${medium}: one in ${Math.round(own.outages.everySeconds / 3600)} h, of ${own.outages.lengthSeconds} s.`,
    `Bursts of loss are the usual of ${medium}.`,
  ]
  return {
    ...own,
    ...(wander ?? {}),
    ...(outages ? { outages } : {}),
    levels: chosen.map(({ uploadKbps }) => ({ kbps: uploadKbps, weight: 1 })),
    medium,
    basis,
  }
}
