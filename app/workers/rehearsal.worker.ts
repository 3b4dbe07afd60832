import {
  jointlyAt,
  jointResult,
  tryRemedy,
  nightsAt,
  nightsOf,
  remediesFor,
} from '@green-mantle/core/rehearsal'
import type { Show } from '@green-mantle/core/show'
import {
  byFrames,
  inSteps,
  newTrace,
  nightPlanOf,
  type NightSummary,
  runNight,
} from '@green-mantle/core/simulation'
import { expose } from 'comlink'

/** Without what computes it, so that it can leave the worker. */
function night(show: Show, startsAtHour: number, number: number, isByFrames: boolean) {
  const plan = nightPlanOf(show, startsAtHour)
  const trace = newTrace(plan)
  const way = isByFrames ? byFrames : inSteps
  const outcome = runNight(plan, show.rehearsal.seed, number, way, trace)
  const { tick: _tick, line: _line, rest: _rest, ...seconds } = trace
  return {
    outcome,
    trace: seconds,
    basis: plan.line.basis,
    sends: plan.sends.map(({ key, name, canvas, fullKbps, passedOnTo, destinationId }) => ({
      key,
      name,
      canvas,
      fullKbps,
      passedOnTo,
      destinationId,
    })),
    devices: plan.devices.map(({ name }) => name),
  }
}
export type LookedAtNight = ReturnType<typeof night>

function headroomPoint(show: Show, startsAtHour: number, percent: number, maxNights: number) {
  const finding = nightsAt(show, percent, { maxNights, startsAtHour })
  for (;;) {
    const { value, done } = finding.next()
    if (done) return value
  }
}

function remedy(show: Show, startsAtHour: number, id: string, before: NightSummary[]) {
  const found = remediesFor(show).find((each) => each.id === id)
  return found ? tryRemedy(show, found, before, startsAtHour) : null
}

const worker = {
  night,
  nights: (show: Show, startsAtHour: number, from: number, to: number) =>
    nightsOf(show, { from, to, startsAtHour }),
  headroomPoint,
  remedy,
  jointlyAt,
  jointResult,
}
export type RehearsalWorker = typeof worker
expose(worker)
