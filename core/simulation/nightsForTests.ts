import { expect } from 'vitest'
import { type Incident, type Sending, defaultSending } from '../show'
import { mediumClasses } from './mediumTable'
import type { NightPlan, SimulatedSend } from './nightPlan'
import { lostOf, type NightOutcome } from './outcome'
import { runNight } from './runNight'
import type { newTrace } from './trace'
import { byFrames, inSteps, type Way } from './ways'

/** Both ways in which a night is run. */
export const ways = [inSteps, byFrames]

/** A line that carries exactly so much, without chance. */
export const steady = (kbps: number): NightPlan['line'] => ({
  ...mediumClasses.cable,
  levelDeviation: 0,
  deviation: 0,
  outages: { everySeconds: 1e15, lengthSeconds: 1 },
  bursts: { everySeconds: 1e15, lengthSeconds: 1, lossPercent: 0 },
  levels: [{ kbps, weight: 1 }],
  medium: 'cable',
  basis: [],
})

/** A send of 4000 kb/s over TCP. */
export const send = (
  changes: Partial<SimulatedSend> = {},
  sending: Partial<Sending> = {},
): SimulatedSend => ({
  key: 'send',
  name: 'Send',
  canvas: 'landscape',
  destinationId: 'place',
  passedOnTo: [],
  isBackup: false,
  transport: 'tcp',
  fullKbps: 4000,
  ceilingKbps: Infinity,
  roundTripMilliseconds: null,
  framesPerSecond: 30,
  keyframeIntervalSeconds: 2,
  bFrames: 0,
  device: -1,
  sending: { ...defaultSending, ...sending },
  lagSeconds: 8,
  startIsPressed: false,
  scoreAt: (share) => 100 * share,
  ...changes,
})

/** Two minutes of one send on a steady line that carries it. */
export function night(changes: Partial<NightPlan> = {}): NightPlan {
  return {
    seconds: 120,
    line: steady(5000),
    byMedium: {},
    otherTrafficKbps: 0,
    sends: [send()],
    recordings: [],
    devices: [],
    freeDiskBytes: null,
    incidents: [],
    clean: { lostPercent: 0.5, awaySeconds: 10, behindSeconds: 5 },
    ...changes,
  }
}

/** An incident that happens. */
export const incident = <Kind extends Incident['kind']>(
  kind: Kind,
  atSeconds: number,
  durationSeconds: number,
  more: Omit<
    Extract<Incident, { kind: Kind }>,
    'id' | 'on' | 'kind' | 'atSeconds' | 'durationSeconds'
  >,
): Incident =>
  ({ id: `${kind} ${atSeconds}`, on: true, kind, atSeconds, durationSeconds, ...more }) as never

/** Made = delivered + waiting + lost. */
export const conserves = ({ sends }: NightOutcome): void => {
  for (const each of sends)
    expect(each.made).toBeCloseTo(each.delivered + each.waiting + lostOf(each), 5)
}

/** By chance alone a destination hangs up once in a hundred hours; a seed in which it does not. */
export const run = (plan: NightPlan, way: Way, trace?: ReturnType<typeof newTrace>): NightOutcome =>
  runNight(plan, 1, 0, way, trace)
