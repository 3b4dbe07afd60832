import type { ShareOfNights } from '../simulation'

/** The headrooms that are tried, in per cent. */
export const headroomsTried = [0, 5, 10, 15, 20, 25, 30, 35, 40, 45, 50, 60] as const

/** One headroom, and the nights that were run. */
export interface HeadroomPoint {
  percent: number
  clean: number
  nights: number
  /** Of the plan that is there, its bitrates made to fit this headroom: one family, so that points compare. */
  share: ShareOfNights
  /** Of the show planned anew for it, on the same nights; null where the family's is not enough already. */
  anew: ShareOfNights | null
  /** Σ priority × score of the plan for it; null where nothing fits. */
  points: number | null
  leftOut: number
}

/** Whether an interval lies clear of a share, above or below. */
export const isSettled = ({ low, high }: ShareOfNights, wanted: number): boolean =>
  low > wanted || high < wanted

/**
 * The smallest headroom whose interval lies above the wanted share, as the plan is there and as it would be
 * planned anew, since that is what setting it does; null where none does.
 */
export function enoughHeadroom(
  points: readonly HeadroomPoint[],
  wantedPercent: number,
): HeadroomPoint | null {
  return (
    [...points]
      .sort((a, b) => a.percent - b.percent)
      .find(
        ({ share, anew, points: worth }) =>
          worth !== null && anew !== null && Math.min(share.low, anew.low) > wantedPercent / 100,
      ) ?? null
  )
}
