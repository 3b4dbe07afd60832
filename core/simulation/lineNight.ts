import { chanceOf } from './random'
import type { LineModel } from './lineModel'

/** A night is computed in steps of this length. */
export const stepSeconds = 0.1
export const stepsPerSecond = 10

/** What a line does through a night, step by step. */
export interface LineNight {
  /** What it carries, kb/s. */
  capacityKbps: Float32Array
  /** What share of packets goes missing, 0 to 1. */
  lossShare: Float32Array
}

/** Spans in which something is so, by a two-state chain (Gilbert 1960, Elliott 1963): from step to step. */
export function eachSpan(
  steps: number,
  { everySeconds, lengthSeconds }: { everySeconds: number; lengthSeconds: number },
  uniform: () => number,
  take: (from: number, to: number) => void,
): void {
  const enter = Math.min(1, stepSeconds / everySeconds)
  const leave = Math.min(1, stepSeconds / lengthSeconds)
  // How many steps until the next change is geometric, so that calm hours cost nothing.
  const until = (chance: number): number =>
    chance >= 1 ? 1 : Math.max(1, Math.ceil(Math.log(1 - uniform()) / Math.log(1 - chance)))
  for (let at = until(enter); at < steps;) {
    const to = Math.min(steps, at + until(leave))
    take(at, to)
    at = to + until(enter)
  }
}

function levelOf({ levels, levelDeviation }: LineModel, seed: number, night: number): number {
  const chance = chanceOf(seed, night, 'level')
  const all = levels.reduce((sum, { weight }) => sum + weight, 0)
  let left = chance.uniform() * all
  const drawn = levels.find(({ weight }) => (left -= weight) <= 0) ?? levels.at(-1)
  return Math.max(0, (drawn?.kbps ?? 0) * (1 + levelDeviation * chance.normal()))
}

/** A line through one night of a seed: level, wander, outages and bursts of loss; without incidents. */
export function lineNight(
  model: LineModel,
  seconds: number,
  seed: number,
  night: number,
): LineNight {
  const steps = Math.ceil(seconds * stepsPerSecond)
  const capacityKbps = new Float32Array(steps)
  const lossShare = new Float32Array(steps)
  const level = levelOf(model, seed, night)
  const { deviation, inertia, outages, bursts } = model
  const wander = chanceOf(seed, night, 'wander')
  const innovation = deviation * Math.sqrt(1 - inertia * inertia)
  let away = deviation * wander.normal()
  for (let second = 0; second * stepsPerSecond < steps; second += 1) {
    const kbps = Math.max(0, level * (1 + away))
    capacityKbps.fill(kbps, second * stepsPerSecond, (second + 1) * stepsPerSecond)
    away = inertia * away + innovation * wander.normal()
  }
  eachSpan(steps, outages, chanceOf(seed, night, 'outages').uniform, (from, to) =>
    capacityKbps.fill(0, from, to),
  )
  eachSpan(steps, bursts, chanceOf(seed, night, 'losses').uniform, (from, to) =>
    lossShare.fill(bursts.lossPercent / 100, from, to),
  )
  return { capacityKbps, lossShare }
}
