/** A share of nights with its interval, each 0 to 1. */
export interface ShareOfNights {
  share: number
  low: number
  high: number
}

/** The 95 % score interval of a share (Wilson 1927). */
export function wilson(clean: number, nights: number, z = 1.959964): ShareOfNights {
  if (nights === 0) return { share: 0, low: 0, high: 1 }
  const share = clean / nights
  const square = z * z
  const middle = (share + square / (2 * nights)) / (1 + square / nights)
  const half =
    (z * Math.sqrt((share * (1 - share)) / nights + square / (4 * nights * nights))) /
    (1 + square / nights)
  return { share, low: Math.max(0, middle - half), high: Math.min(1, middle + half) }
}
