import type { Incident } from '../show'
import { eachSpan, type LineNight, lineNight, stepSeconds, stepsPerSecond } from './lineNight'
import { otherChances } from './mediumTable'
import type { NightPlan } from './nightPlan'
import { chanceOf } from './random'

/** A time in which a send's destination does something, in steps. */
export interface Span {
  from: number
  to: number
}

/** Everything that happens to a night from outside, by chance or by an incident. */
export interface Conditions extends LineNight {
  steps: number
  /** How full each device is, second by second; 1 = all of it. */
  loads: Float32Array[]
  /** For each send, when its destination takes nothing. */
  refuses: Span[][]
  /** For each send, when its ingest takes no more than so much. */
  slow: (Span & { kbps: number })[][]
  /** From when on nothing more fits on the disk; the number of steps where it always does. */
  diskFullAt: number
}

const spanOf = ({ atSeconds, durationSeconds }: Incident, steps: number): Span => ({
  from: Math.min(steps, Math.round(atSeconds / stepSeconds)),
  to: Math.min(steps, Math.round((atSeconds + durationSeconds) / stepSeconds)),
})

function lineWithIncidents(plan: NightPlan, seed: number, night: number): LineNight {
  const line = lineNight(plan.line, plan.seconds, seed, night)
  const { capacityKbps, lossShare } = line
  const steps = capacityKbps.length
  // A change of medium first, so that a dip that lies in it dips what that medium carries.
  for (const incident of plan.incidents)
    if (incident.kind === 'other medium') {
      const model = plan.byMedium[incident.medium]
      if (!model) continue
      const other = lineNight(model, plan.seconds, seed, night)
      const { from, to } = spanOf(incident, steps)
      capacityKbps.set(other.capacityKbps.subarray(from, to), from)
      lossShare.set(other.lossShare.subarray(from, to), from)
    }
  for (let step = 0; step < steps; step += 1)
    capacityKbps[step] = Math.max(0, (capacityKbps[step] as number) - plan.otherTrafficKbps)
  for (const incident of plan.incidents) {
    const { from, to } = spanOf(incident, steps)
    for (let step = from; step < to; step += 1) {
      const kbps = capacityKbps[step] as number
      if (incident.kind === 'upload dips') capacityKbps[step] = (kbps * incident.leftPercent) / 100
      else if (incident.kind === 'outage') capacityKbps[step] = 0
      else if (incident.kind === 'other traffic')
        capacityKbps[step] = Math.max(0, kbps - incident.kbps)
      else if (incident.kind === 'loss burst') lossShare[step] = incident.lossPercent / 100
    }
  }
  return line
}

function loadsOf(plan: NightPlan, seed: number, night: number, steps: number): Float32Array[] {
  const seconds = Math.ceil(plan.seconds)
  return plan.devices.map(({ id, load }, index) => {
    const chance = chanceOf(seed, night, 'computer', index)
    const { loadDeviation, loadInertia, otherPrograms } = otherChances
    const innovation = loadDeviation * Math.sqrt(1 - loadInertia * loadInertia)
    const loads = new Float32Array(seconds)
    let away = loadDeviation * chance.normal()
    for (let second = 0; second < seconds; second += 1) {
      loads[second] = load * (1 + away)
      away = loadInertia * away + innovation * chance.normal()
    }
    const add = ({ from, to }: Span, share: number): void => {
      for (
        let second = Math.floor(from / stepsPerSecond);
        second < to / stepsPerSecond;
        second += 1
      )
        if (second < seconds) loads[second] = (loads[second] as number) + share
    }
    eachSpan(steps, otherPrograms, chance.uniform, (from, to) =>
      add({ from, to }, otherPrograms.takenShare),
    )
    for (const incident of plan.incidents)
      if (incident.kind === 'device taken' && incident.deviceId === id)
        add(spanOf(incident, steps), incident.takenPercent / 100)
    return loads
  })
}

function refusalsOf(plan: NightPlan, seed: number, night: number, steps: number): Span[][] {
  // The two ingests of a destination fail on their own, but a run-out key fails both.
  return plan.sends.map(({ destinationId, isBackup }, index) => {
    const spans: Span[] = []
    const { uniform } = chanceOf(seed, night, 'destinations', index)
    eachSpan(steps, otherChances.hangUps, uniform, (from, to) => spans.push({ from, to }))
    for (const incident of plan.incidents) {
      const isOwn = 'destinationId' in incident && incident.destinationId === destinationId
      if (!isOwn) continue
      if ((incident.kind === 'hangs up' && !isBackup) || incident.kind === 'key runs out')
        spans.push(spanOf(incident, steps))
    }
    return spans.sort((a, b) => a.from - b.from)
  })
}

/** What happens to one night of a seed. */
export function conditionsOf(plan: NightPlan, seed: number, night: number): Conditions {
  const line = lineWithIncidents(plan, seed, night)
  const steps = line.capacityKbps.length
  const bytesPerSecond = plan.recordings.reduce(
    (sum, recording) => sum + recording.bytesPerSecond,
    0,
  )
  const full =
    plan.freeDiskBytes === null || bytesPerSecond === 0
      ? Infinity
      : plan.freeDiskBytes / bytesPerSecond / stepSeconds
  const filled = plan.incidents
    .filter(({ kind }) => kind === 'disk fills')
    .map((incident) => spanOf(incident, steps).from)
  return {
    ...line,
    steps,
    loads: loadsOf(plan, seed, night, steps),
    refuses: refusalsOf(plan, seed, night, steps),
    slow: plan.sends.map(({ destinationId, isBackup }) =>
      plan.incidents.flatMap((incident) =>
        incident.kind === 'slow ingest' && incident.destinationId === destinationId && !isBackup
          ? [{ ...spanOf(incident, steps), kbps: incident.kbps }]
          : [],
      ),
    ),
    diskFullAt: Math.min(steps, Math.floor(Math.min(full, ...filled))),
  }
}
