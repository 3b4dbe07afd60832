import {
  audioBitrateLimitsKbps,
  bFramesLimits,
  delayLimitsMilliseconds,
  headroomLimitsPercent,
  keyframeIntervalLimitsSeconds,
  levelLimitsDecibels,
  lookAheadLimitsFrames,
  lowPercentileLimits,
  plannedShareLimitsPercent,
  rtmpChunkLimitsBytes,
  sideLimitsPixels,
  videoBitrateLimitsKbps,
  wantedPercentLimits,
} from '@green-mantle/core/show'
import {
  decibelUnits,
  megabitUnits,
  millisecondUnits,
  percentUnits,
  pixelUnits,
  rateUnits,
  secondUnits,
  type Units,
} from '@green-mantle/core/words'

/** How a number of one kind is typed: its limits, its units, and how far the arrow keys take it. */
interface Quantity {
  min: number
  max: number
  step: number
  decimals: number
  unit: string
  units: Units
}

const percent = { unit: '%', units: percentUnits, min: 0, max: 100, step: 1, decimals: 0 }
const gigabytes = {
  ...{ unit: 'GB', units: { gb: 1, mb: 0.001 } },
  ...{ max: 1_000_000, step: 1, decimals: 3 },
}
const megabits = { unit: 'Mb/s', units: megabitUnits, decimals: 3 }

/** What is typed in more than one place, or in one row after the other: each is described here alone. */
export const quantities = {
  'video bitrate': {
    ...videoBitrateLimitsKbps,
    ...{ step: 50, decimals: 0, unit: 'kb/s', units: rateUnits },
  },
  'audio bitrate': {
    ...audioBitrateLimitsKbps,
    ...{ step: 16, decimals: 0, unit: 'kb/s', units: rateUnits },
  },
  'keyframe interval': {
    ...keyframeIntervalLimitsSeconds,
    ...{ step: 1, decimals: 2, unit: 's', units: secondUnits },
  },
  'B-frames': { ...bFramesLimits, step: 1, decimals: 0, unit: '', units: {} },
  'look-ahead': { ...lookAheadLimitsFrames, step: 1, decimals: 0, unit: 'frames', units: {} },
  'measured upload': { ...megabits, min: 0.001, max: 100_000, step: 0.1 },
  traffic: { ...megabits, min: 0, max: 100_000, step: 0.1 },
  'link rate': { ...megabits, min: 1, max: 400_000, step: 100 },
  'round trip': {
    ...{ min: 0.1, max: 60_000, step: 1 },
    ...{ decimals: 1, unit: 'ms', units: millisecondUnits },
  },
  'chunk size': { ...rtmpChunkLimitsBytes, step: 128, decimals: 0, unit: 'bytes', units: {} },
  loss: { ...percent, step: 0.01, decimals: 3 },
  share: percent,
  headroom: { ...percent, ...headroomLimitsPercent, decimals: 1 },
  'low percentile': { ...percent, ...lowPercentileLimits },
  'planned share': { ...percent, ...plannedShareLimitsPercent },
  'wanted share of nights': { ...percent, ...wantedPercentLimits },
  level: { ...levelLimitsDecibels, step: 1, decimals: 1, unit: 'dB', units: decibelUnits },
  delay: {
    ...delayLimitsMilliseconds,
    ...{ step: 5, decimals: 0, unit: 'ms', units: millisecondUnits },
  },
  side: { ...sideLimitsPixels, step: 2, decimals: 0, unit: 'px', units: pixelUnits },
  'data allowed': { ...gigabytes, min: 0.001 },
  'data used': { ...gigabytes, min: 0 },
} as const satisfies Record<string, Quantity>

export type QuantityName = keyof typeof quantities
