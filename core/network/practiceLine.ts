import { uniformFloat64 } from 'pure-rand/distribution/uniformFloat64'
import { mersenne } from 'pure-rand/generator/mersenne'
import type { Medium } from '../show'

/** How a simulated line behaves; all values are invented to be plausible, none is measured. */
export interface PracticeLine {
  name: string
  medium: Medium
  capacityKbps: number
  /** How far the capacity wanders, as a share of it (standard deviation). */
  wander: number
  roundTripMilliseconds: number
  lossPercent: number
  /** In the evening everybody is at home: the share that is then missing, at the worst hour. */
  eveningDip: number
  bursts: { perMinute: number; seconds: number; lossPercent: number }
  outages: { perHour: number; seconds: number }
}

export const practiceLines = {
  'rural copper': {
    name: 'Rural copper',
    medium: 'cable',
    capacityKbps: 18_500,
    wander: 0.03,
    roundTripMilliseconds: 30,
    lossPercent: 0.01,
    eveningDip: 0.08,
    bursts: { perMinute: 0.3, seconds: 2, lossPercent: 1 },
    outages: { perHour: 0.5, seconds: 8 },
  },
  cable: {
    name: 'Cable',
    medium: 'cable',
    capacityKbps: 38_000,
    wander: 0.06,
    roundTripMilliseconds: 18,
    lossPercent: 0.01,
    eveningDip: 0.35,
    bursts: { perMinute: 0.5, seconds: 2, lossPercent: 0.5 },
    outages: { perHour: 0.1, seconds: 20 },
  },
  fibre: {
    name: 'Fibre',
    medium: 'cable',
    capacityKbps: 95_000,
    wander: 0.01,
    roundTripMilliseconds: 8,
    lossPercent: 0.001,
    eveningDip: 0.02,
    bursts: { perMinute: 0.02, seconds: 1, lossPercent: 0.1 },
    outages: { perHour: 0.02, seconds: 30 },
  },
  mobile: {
    name: 'Mobile',
    medium: 'mobile',
    capacityKbps: 14_000,
    wander: 0.25,
    roundTripMilliseconds: 55,
    lossPercent: 0.05,
    eveningDip: 0.3,
    bursts: { perMinute: 2, seconds: 3, lossPercent: 2 },
    outages: { perHour: 12, seconds: 4 },
  },
  'venue wifi': {
    name: 'Venue Wi-Fi',
    medium: 'wifi',
    capacityKbps: 22_000,
    wander: 0.2,
    roundTripMilliseconds: 25,
    lossPercent: 0.2,
    eveningDip: 0.45,
    bursts: { perMinute: 4, seconds: 2, lossPercent: 3 },
    outages: { perHour: 6, seconds: 3 },
  },
} as const satisfies Record<string, PracticeLine>
export type PracticeLineName = keyof typeof practiceLines
export const practiceLineNames = Object.keys(practiceLines) as PracticeLineName[]

/** One second of a practice line. */
export interface PracticeSecond {
  capacityKbps: number
  roundTripMilliseconds: number
  lossPercent: number
  state: 'steady' | 'burst of loss' | 'outage'
}

/** How much of the evening dip there is at an hour of the day: none until 17, all of it at 21, none from 1 on. */
export function eveningShare(hour: number): number {
  const hoursFromWorst = Math.abs(((hour - 21 + 36) % 24) - 12)
  return Math.max(0, 1 - hoursFromWorst / 4)
}

/** How much of the last second's deviation is still there in the next. */
const inertia = 0.8

/**
 * The first seconds of a practice line, from an hour of the day on. The same seed gives the same
 * seconds, and more of them begin with the fewer.
 */
export function practiceSeconds(
  line: PracticeLine,
  options: { seed: number; startHour: number; count: number },
): PracticeSecond[] {
  const generator = mersenne(options.seed)
  const chance = (): number => uniformFloat64(generator)
  // The sum of twelve is near enough to a normal deviate (central limit theorem).
  const deviate = (): number => Array.from({ length: 12 }, chance).reduce((a, b) => a + b, -6)
  let deviation = 0
  let burstLeft = 0
  let outageLeft = 0
  return Array.from({ length: options.count }, (_, second) => {
    deviation = inertia * deviation + Math.sqrt(1 - inertia ** 2) * deviate()
    const burstBegins = chance() < line.bursts.perMinute / 60
    const outageBegins = chance() < line.outages.perHour / 3600
    burstLeft = burstBegins ? line.bursts.seconds : Math.max(0, burstLeft - 1)
    outageLeft = outageBegins ? line.outages.seconds : Math.max(0, outageLeft - 1)
    const dip = line.eveningDip * eveningShare((options.startHour + second / 3600) % 24)
    const free = line.capacityKbps * (1 - dip) * Math.max(0.05, 1 + line.wander * deviation)
    const state = outageLeft > 0 ? 'outage' : burstLeft > 0 ? 'burst of loss' : 'steady'
    return {
      state,
      capacityKbps: state === 'outage' ? 0 : free,
      roundTripMilliseconds: line.roundTripMilliseconds * (state === 'burst of loss' ? 1.5 : 1),
      lossPercent: state === 'burst of loss' ? line.bursts.lossPercent : line.lossPercent,
    }
  })
}

/** What a practice line is like so many milliseconds after its start; past its end it stays as it was. */
export const practiceSecondAt = (
  seconds: readonly PracticeSecond[],
  elapsedMilliseconds: number,
): PracticeSecond | undefined =>
  seconds[Math.min(Math.floor(elapsedMilliseconds / 1000), seconds.length - 1)] ?? seconds[0]
