import type { ShareOfNights } from '../simulation'

/** The headrooms that are tried, in per cent. */
export const headroomsTried = [0, 5, 10, 15, 20, 25, 30, 35, 40, 45, 50, 60] as const

/** One headroom: the show planned anew for it, and the nights that were run. */
export interface HeadroomPoint {
  percent: number
  clean: number
  nights: number
  share: ShareOfNights
  /** Σ priority × score of the plan for it; null where nothing fits. */
  points: number | null
  leftOut: number
}

/** Whether an interval lies clear of a share, above or below. */
export const isSettled = ({ low, high }: ShareOfNights, wanted: number): boolean =>
  low > wanted || high < wanted

/** The smallest headroom whose interval lies above the wanted share; null where none does. */
export function enoughHeadroom(
  points: readonly HeadroomPoint[],
  wantedPercent: number,
): HeadroomPoint | null {
  return (
    [...points]
      .sort((a, b) => a.percent - b.percent)
      .find(({ share, points: worth }) => worth !== null && share.low > wantedPercent / 100) ?? null
  )
}
