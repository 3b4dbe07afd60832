/**
 * How a search ended, or how it stands while it goes on. The gap is how much more than what was found a
 * plan could still be worth.
 */
export type SearchStatus =
  /** No plan is worth more by as much as the margin. */
  | { name: 'optimal'; gap: number }
  /** Not proven, or not yet; null where nothing is known of the gap. */
  | { name: 'stopped'; gap: number | null }
  /** There is no plan at all. */
  | { name: 'infeasible' }

export const nothingKnown: SearchStatus = { name: 'stopped', gap: null }

/** A proven answer: the best there is, to within a gap, or that there is none. */
export const proven = (isFound: boolean, gap = 0): SearchStatus =>
  isFound ? { name: 'optimal', gap } : { name: 'infeasible' }

/** The same status for something found that is worth so much less. */
export const worthLess = (status: SearchStatus, by: number): SearchStatus =>
  status.name === 'infeasible' || status.gap === null ? status : { ...status, gap: status.gap + by }
