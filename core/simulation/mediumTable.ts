import type { Medium } from '../show'

/** How a line of a medium behaves where nothing was measured second by second. */
export interface MediumClass {
  /** How far one night's level is from what was measured, as a share of it (one deviation). */
  levelDeviation: number
  /** How far a second is from the night's level, as a share of it (one deviation). */
  deviation: number
  /** How much of a second's distance is left in the next: the coefficient of the wander. */
  inertia: number
  /** Nothing passes: how often, and for how long on average. */
  outages: { everySeconds: number; lengthSeconds: number }
  /** Packets go missing in bursts. */
  bursts: { everySeconds: number; lengthSeconds: number; lossPercent: number }
}

/** Working values, set by us until a line's own are measured; no published source. */
export const mediumClasses = {
  cable: {
    levelDeviation: 0.03,
    deviation: 0.04,
    inertia: 0.9,
    outages: { everySeconds: 40_000, lengthSeconds: 2 },
    bursts: { everySeconds: 12_000, lengthSeconds: 2, lossPercent: 2 },
  },
  wifi: {
    levelDeviation: 0.1,
    deviation: 0.13,
    inertia: 0.9,
    outages: { everySeconds: 6000, lengthSeconds: 2.5 },
    bursts: { everySeconds: 1500, lengthSeconds: 3, lossPercent: 4 },
  },
  mobile: {
    levelDeviation: 0.18,
    deviation: 0.2,
    inertia: 0.94,
    outages: { everySeconds: 4000, lengthSeconds: 5 },
    bursts: { everySeconds: 1200, lengthSeconds: 4, lossPercent: 5 },
  },
} as const satisfies Record<Medium, MediumClass>

/** What else can go wrong; working values of ours, no published source. */
export const otherChances = {
  /** How often a destination hangs up, and how long it then takes nothing. */
  hangUps: { everySeconds: 360_000, lengthSeconds: 3 },
  /** Programs that start by themselves: how often, how long, and how much of a device they take. */
  otherPrograms: { everySeconds: 20_000, lengthSeconds: 8, takenShare: 0.25 },
  /** What an encoder's load does from second to second, as a share of it. */
  loadDeviation: 0.03,
  loadInertia: 0.95,
} as const

/** How viewers' players and hands behave; working values of ours. */
export const viewing = {
  /** A player holds so much; a send that is further behind freezes the picture. */
  playerBufferSeconds: 4,
  /** How long somebody takes to press start again, once the picture is on the platform's page again. */
  pressAgainSeconds: 12,
} as const

/** What the practice of sending gives; working values where nothing is said. */
export const sendingPractice = {
  /** With nothing acknowledged for so long, a connection counts as gone. */
  goneAfterSeconds: 6,
  /** A line is clear while no more than this waits: a keyframe takes a moment of its own. */
  clearBelowSeconds: 0.35,
  /** A line that was clear for so long lets a lowered bitrate be raised a step. */
  clearForSeconds: 4,
  /** No sender lowers twice within this. */
  betweenLoweringsSeconds: 1,
  /** In which SRT has to have sent a packet again (its latency), and how much above its rate it may send. */
  srtLatencySeconds: 1,
  srtOverhead: 1.25,
  /** A held picture is kept in memory no longer than this. */
  longestHoldSeconds: 60,
  /** Where nothing is known of a path, for what a burst of loss does to TCP. */
  roundTripMilliseconds: 40,
} as const
