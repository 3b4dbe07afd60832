import type { RateControl } from '../show'

/** Encodes are set up with a buffer of so many seconds at their bitrate. */
export const encoderBufferSeconds = 1
/** Over how long a peak has to pass; what is shorter waits in the sender. */
const peakWindowSeconds = 1

/**
 * How much of the buffer the busiest window uses beyond the mean. Constant bitrate: the middle of the
 * 1.09 to 1.21 that we measured over a second at a one-second buffer (common practice, no published
 * source). Variable bitrate: a working value of ours until it is measured.
 */
const busiestShareOfBuffer = { constant: 0.15, variable: 0.3 } as const satisfies Record<
  RateControl,
  number
>

/**
 * By what share of its mean bitrate the busiest second of an encode is above it. Buffer in seconds
 * at that bitrate.
 */
export const peakShare = (
  rateControl: RateControl,
  bufferSeconds: number = encoderBufferSeconds,
): number => (busiestShareOfBuffer[rateControl] * bufferSeconds) / peakWindowSeconds
