import type { Conditions } from './conditions'
import { stepsPerSecond } from './lineNight'
import type { NightPlan } from './nightPlan'
import type { Sender, SenderMode } from './sender'

/** How one send stood, in the order of gravity; a second is drawn as the gravest in it. */
export const laneStates = ['steady', 'lowered', 'behind', 'dropping', 'gone', 'over'] as const
export type LaneState = (typeof laneStates)[number]

/** More than this of a wait is drawn as behind. */
const behindFromSeconds = 1

/** No more values than this are kept of a night, however long it is and however many are sent. */
const maxValues = 4_000_000

/** One night second by second, to be drawn; of a long one with many sends each place is several seconds. */
export interface NightTrace {
  /** How many places, and how many seconds each stands for. */
  places: number
  secondsAPlace: number
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
  const lanes = Math.max(1, plan.sends.length + plan.devices.length)
  const secondsAPlace = Math.max(1, Math.ceil((seconds * lanes) / maxValues))
  const places = Math.ceil(seconds / secondsAPlace)
  const bySend = <Numbers>(make: () => Numbers): Numbers[] => plan.sends.map(make)
  const floats = (): Float32Array => new Float32Array(places)
  const placeOf = (second: number): number => Math.floor(second / secondsAPlace)
  const most = (values: Float32Array | Uint8Array, place: number, value: number): void => {
    if (value > (values[place] as number)) values[place] = value
  }
  const trace: NightTrace = {
    places,
    secondsAPlace,
    capacityKbps: floats().fill(Infinity),
    sentKbps: bySend(floats),
    states: bySend(() => new Uint8Array(places)),
    waitSeconds: bySend(floats),
    lostFrames: bySend(floats),
    shares: bySend(() => floats().fill(1)),
    loads: plan.devices.map(floats),
    tick(index, second, sender, sentKbit) {
      const place = placeOf(second)
      const sent = trace.sentKbps[index] as Float32Array
      sent[place] = (sent[place] as number) + sentKbit / secondsAPlace
      const lost = trace.lostFrames[index] as Float32Array
      lost[place] = (lost[place] as number) + sender.lostNow
      most(trace.waitSeconds[index] as Float32Array, place, sender.waitSeconds)
      const shares = trace.shares[index] as Float32Array
      shares[place] = Math.min(shares[place] as number, sender.share)
      const state = stateOf(sender.mode, sender.share, sender.waitSeconds)
      most(trace.states[index] as Uint8Array, place, state)
    },
    line(second, conditions, step) {
      const place = placeOf(second)
      // What the line carried at the least: a cut of a fraction is seen.
      const kbps = conditions.capacityKbps[step] as number
      trace.capacityKbps[place] = Math.min(trace.capacityKbps[place] as number, kbps)
      conditions.loads.forEach((loads, device) => {
        most(trace.loads[device] as Float32Array, place, loads[second] ?? 0)
      })
    },
    rest(second, conditions) {
      trace.line(second, conditions, second * stepsPerSecond)
      plan.sends.forEach(({ fullKbps }, index) => {
        const sent = trace.sentKbps[index] as Float32Array
        const place = placeOf(second)
        sent[place] = (sent[place] as number) + fullKbps / secondsAPlace
      })
    },
  }
  return trace
}
