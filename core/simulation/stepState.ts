import { tcpCeilingKbps } from '../network'
import type { Conditions, Span } from './conditions'
import { stepSeconds, stepsPerSecond } from './lineNight'
import { sendingPractice } from './mediumTable'
import type { NightPlan } from './nightPlan'
import type { LossCause, NightEvent } from './outcome'

/** A device may be this far behind before frames come too late. */
const lateAfterSeconds = 0.5

/** What is so throughout one step, worked out when it begins; frame by frame a step has several ticks. */
export interface StepState {
  step: number
  capacityKbps: number
  lossShare: number
  /** By send: whether its destination takes nothing, whether its ingest is slow, and its ceiling. */
  refuses: Uint8Array
  isSlow: Uint8Array
  ceilingKbps: Float64Array
  /** By device: how far behind its encodes are, and what share of their frames is skipped. */
  behindSeconds: Float64Array
  skippedShare: Float64Array
  maxLoad: number[]
  isDiskFull: boolean
}

export const newStepState = (plan: NightPlan): StepState => ({
  step: -1,
  capacityKbps: 0,
  lossShare: 0,
  refuses: new Uint8Array(plan.sends.length),
  isSlow: new Uint8Array(plan.sends.length),
  ceilingKbps: new Float64Array(plan.sends.length),
  behindSeconds: new Float64Array(plan.devices.length),
  skippedShare: new Float64Array(plan.devices.length),
  maxLoad: plan.devices.map(({ load }) => load),
  isDiskFull: false,
})

const isIn = (spans: readonly Span[], step: number): boolean =>
  spans.some(({ from, to }) => step >= from && step < to)

/** Takes up the loads of a second, also where nothing else of it matters. */
export function noteLoads(state: StepState, { loads }: Conditions, second: number): void {
  for (let device = 0; device < loads.length; device += 1) {
    const load = loads[device]?.[second] ?? 0
    if (load > (state.maxLoad[device] as number)) state.maxLoad[device] = load
  }
}

/** Over 100 % all encodes of a device fall behind together, and catch up when there is room again. */
function enterDevices(
  state: StepState,
  plan: NightPlan,
  conditions: Conditions,
  tell: (kind: NightEvent['kind'], who: string, cause: LossCause | null, value: number) => void,
): void {
  const second = Math.floor(state.step / stepsPerSecond)
  noteLoads(state, conditions, second)
  conditions.loads.forEach((loads, device) => {
    const load = loads[Math.min(second, loads.length - 1)] as number
    const before = state.behindSeconds[device] as number
    const after =
      load > 1
        ? Math.min(lateAfterSeconds + stepSeconds, before + (1 - 1 / load) * stepSeconds)
        : Math.max(0, before - (1 / Math.max(load, 0.01) - 1) * stepSeconds)
    state.behindSeconds[device] = after
    const isLate = after > lateAfterSeconds
    const wasLate = before > lateAfterSeconds
    state.skippedShare[device] = isLate && load > 1 ? 1 - 1 / load : 0
    const name = plan.devices[device]?.name ?? ''
    if (isLate && !wasLate) tell('overloaded', name, 'computer', load)
    if (!isLate && wasLate) tell('keeps up again', name, null, load)
  })
}

/** Brings the state to a step. */
export function enterStep(
  state: StepState,
  step: number,
  plan: NightPlan,
  conditions: Conditions,
  tell: (kind: NightEvent['kind'], who: string, cause: LossCause | null, value: number) => void,
): void {
  state.step = step
  state.capacityKbps = conditions.capacityKbps[step] as number
  const loss = conditions.lossShare[step] as number
  state.lossShare = loss
  state.isDiskFull = step >= conditions.diskFullAt
  plan.sends.forEach((send, index) => {
    state.refuses[index] = isIn(conditions.refuses[index] ?? [], step) ? 1 : 0
    let ceiling = send.ceilingKbps
    state.isSlow[index] = 0
    for (const { from, to, kbps } of conditions.slow[index] ?? [])
      if (step >= from && step < to) {
        ceiling = Math.min(ceiling, kbps)
        state.isSlow[index] = 1
      }
    if (loss > 0 && send.transport === 'tcp')
      ceiling = Math.min(
        ceiling,
        tcpCeilingKbps(
          send.roundTripMilliseconds ?? sendingPractice.roundTripMilliseconds,
          100 * loss,
        ),
      )
    state.ceilingKbps[index] = ceiling
  })
  enterDevices(state, plan, conditions, tell)
}
