import type { Sending } from '../show'
import { sendingPractice } from './mediumTable'

/** How far a sender that lowers its bitrate has gone with that. */
export interface Lowering {
  /** The share of its planned bitrate that it makes. */
  share: number
  /** When it lowered last, in seconds of the caller's clock. */
  loweredAt: number
  /** For how long the line has been clear. */
  clearSeconds: number
}

export const neverLowered = (): Lowering => ({ share: 1, loweredAt: -Infinity, clearSeconds: 0 })

/**
 * The share of its planned bitrate that a sender makes next, by what waits at its present share, in seconds.
 * It lowers where more waits than it bears, once a second at most, and raises step by step once the line has
 * been clear for a while. `seconds` have passed since it was asked last; of `lowering` all but the share is
 * brought up to date.
 */
export function nextShare(
  lowering: Lowering,
  sending: Sending,
  { waitSeconds, seconds, now }: { waitSeconds: number; seconds: number; now: number },
): number {
  const { share } = lowering
  const isTime = now - lowering.loweredAt >= sendingPractice.betweenLoweringsSeconds
  const least = sending.leastPercent / 100
  if (waitSeconds > sending.lowerAfterSeconds && isTime && share > least) {
    lowering.loweredAt = now
    lowering.clearSeconds = 0
    return Math.max(least, (share * sending.lowerToPercent) / 100)
  }
  if (waitSeconds >= sendingPractice.clearBelowSeconds) {
    lowering.clearSeconds = 0
    return share
  }
  lowering.clearSeconds += seconds
  if (share === 1 || lowering.clearSeconds < sendingPractice.clearForSeconds) return share
  // From here on a step a second.
  lowering.clearSeconds = sendingPractice.clearForSeconds - 1
  return Math.min(1, share + sending.raiseByPercent / 100)
}
