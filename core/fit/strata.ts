import type { Budget, Send } from './budget'

export interface Slab {
  send: Send
  /** Shares of the drawn width, 0 to 1. */
  from: number
  width: number
  /** How much of the slab, from its left, lies within the usable upload: 1 = all of it. */
  shareWithin: number
}

/** The upload strata: where every slab, the usable limit and the headroom stand, as shares of the drawn width. */
export interface Strata {
  /** What the drawn width stands for. */
  wholeKbps: number
  slabs: Slab[]
  usableTick: number
  otherTraffic: { from: number; width: number }
  /** What of the headroom no send takes, and what of it the sends' peaks may need. */
  headroom: { from: number; width: number }
  peaks: { from: number; width: number }
}

/**
 * Lays the sends out along the measured line, which is the whole width; where the sends are more
 * than that, they are the whole width and the line is a part of it.
 */
export function strataOf(budget: Budget): Strata {
  const { upload, totalKbps } = budget
  const wholeKbps = Math.max(upload.measuredKbps, totalKbps, 1)
  let at = 0
  const slabs = budget.sends.map((send): Slab => {
    const fromKbps = at
    at += send.wireRateKbps
    const within = Math.max(0, Math.min(send.wireRateKbps, upload.usableKbps - fromKbps))
    return {
      send,
      from: fromKbps / wholeKbps,
      width: send.wireRateKbps / wholeKbps,
      shareWithin: send.wireRateKbps > 0 ? within / send.wireRateKbps : 1,
    }
  })
  const otherWidth = Math.min(upload.otherTrafficKbps, upload.measuredKbps - upload.usableKbps)
  // Other traffic is drawn as steady; what lies above it is there for peaks first.
  const headroomFrom = Math.max(totalKbps, upload.usableKbps + Math.max(0, otherWidth))
  return {
    wholeKbps,
    slabs,
    usableTick: upload.usableKbps / wholeKbps,
    otherTraffic: {
      from: upload.usableKbps / wholeKbps,
      width: Math.max(0, otherWidth) / wholeKbps,
    },
    headroom: {
      from: Math.min(1, headroomFrom / wholeKbps),
      width: Math.max(0, upload.measuredKbps - headroomFrom) / wholeKbps,
    },
    peaks: {
      from: Math.min(1, headroomFrom / wholeKbps),
      width:
        Math.max(0, Math.min(upload.peaksKbps, upload.measuredKbps - headroomFrom)) / wholeKbps,
    },
  }
}

/** How far along the drawn width a rate reaches, 0 to 1. */
export const shareOfStrata = ({ wholeKbps }: Strata, kbps: number): number =>
  Math.min(1, Math.max(0, kbps / wholeKbps))
