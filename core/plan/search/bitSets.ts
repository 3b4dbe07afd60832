/**
 * Sets of the whole numbers from 0 to 51 as one whole number: 2^i for each i that is in it. Disjoint
 * sets are united by adding them, and a subset is taken out by subtracting it. Bitwise operators see the
 * lowest 32 bits alone, so the rest is looked at by itself.
 */
export const maxInSet = 52

const beyondLow = 2 ** 32
/** The lowest 32 bits, as bitwise operators see them. */
export const lowOf = (set: number): number => set | 0
/** The bits above the lowest 32. */
export const highOf = (set: number): number => (set / beyondLow) | 0

export const setOf = (numbers: readonly number[]): number =>
  numbers.reduce((set, number) => set + 2 ** number, 0)

/** All numbers below `count`. */
export const setBelow = (count: number): number => 2 ** count - 1

export const isIn = (set: number, number: number): boolean =>
  number < 32 ? (set & (1 << number)) !== 0 : (highOf(set) & (1 << (number - 32))) !== 0

export const isSubset = (part: number, whole: number): boolean =>
  (part & ~whole) === 0 && (highOf(part) & ~highOf(whole)) === 0

/** The lowest number of a set; -1 of the empty one. */
export function lowestIn(set: number): number {
  const low = lowOf(set)
  if (low !== 0) return 31 - Math.clz32(low & -low)
  const high = highOf(set)
  return high === 0 ? -1 : 63 - Math.clz32(high & -high)
}
