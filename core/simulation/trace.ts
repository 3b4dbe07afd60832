import type { Conditions } from './conditions'
import { stepsPerSecond } from './lineNight'
import type { NightPlan } from './nightPlan'
import type { Sender, SenderMode } from './sender'

/** How one send stood, in the order of gravity; a second is drawn as the gravest in it. */
export const laneStates = ['steady', 'lowered', 'behind', 'dropping', 'gone', 'over'] as const
export type LaneState = (typeof laneStates)[number]

/** More than this of a wait is drawn as behind. */
const behindFromSeconds = 1

/** One night second by second, to be drawn. */
export interface NightTrace {
  seconds: number
  capacityKbps: Float32Array
  /** By send: what went up the line, the gravest state (an index of `laneStates`), wait, frames lost. */
  sentKbps: Float32Array[]
  states: Uint8Array[]
  waitSeconds: Float32Array[]
  lostFrames: Float32Array[]
  shares: Float32Array[]
  loads: Float32Array[]
  tick(index: number, second: number, sender: Sender, sentKbit: number): void
  line(second: number, conditions: Conditions, step: number): void
  rest(second: number, conditions: Conditions): void
}

function stateOf(mode: SenderMode, share: number, waitSeconds: number): number {
  const state: LaneState =
    mode === 'over'
      ? 'over'
      : mode === 'gone' || mode === 'waiting'
        ? 'gone'
        : mode === 'dropping'
          ? 'dropping'
          : waitSeconds > behindFromSeconds
            ? 'behind'
            : share < 1
              ? 'lowered'
              : 'steady'
  return laneStates.indexOf(state)
}

export function newTrace(plan: NightPlan): NightTrace {
  const seconds = Math.ceil(plan.seconds)
  const bySend = <Numbers>(make: () => Numbers): Numbers[] => plan.sends.map(make)
  const floats = (): Float32Array => new Float32Array(seconds)
  const trace: NightTrace = {
    seconds,
    capacityKbps: floats(),
    sentKbps: bySend(floats),
    states: bySend(() => new Uint8Array(seconds)),
    waitSeconds: bySend(floats),
    lostFrames: bySend(floats),
    shares: bySend(() => floats().fill(1)),
    loads: plan.devices.map(floats),
    tick(index, second, sender, sentKbit) {
      const add = (list: Float32Array[], value: number): void => {
        const values = list[index] as Float32Array
        values[second] = (values[second] as number) + value
      }
      add(trace.sentKbps, sentKbit)
      add(trace.lostFrames, sender.lostNow)
      const waits = trace.waitSeconds[index] as Float32Array
      waits[second] = Math.max(waits[second] as number, sender.waitSeconds)
      const shares = trace.shares[index] as Float32Array
      shares[second] = Math.min(shares[second] as number, sender.share)
      const states = trace.states[index] as Uint8Array
      const state = stateOf(sender.mode, sender.share, sender.waitSeconds)
      states[second] = Math.max(states[second] as number, state)
    },
    line(second, conditions, step) {
      // What the line carried at the least in this second: a cut of a fraction is seen.
      const kbps = conditions.capacityKbps[step] as number
      const isFirst = step % stepsPerSecond === 0
      const before = trace.capacityKbps[second] as number
      trace.capacityKbps[second] = isFirst ? kbps : Math.min(before, kbps)
      conditions.loads.forEach((loads, device) => {
        ;(trace.loads[device] as Float32Array)[second] = loads[second] as number
      })
    },
    rest(second, conditions) {
      trace.line(second, conditions, second * stepsPerSecond)
      plan.sends.forEach(({ fullKbps }, index) => {
        ;(trace.sentKbps[index] as Float32Array)[second] = fullKbps
      })
    },
  }
  return trace
}
