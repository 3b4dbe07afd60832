import { xoroshiro128plus } from 'pure-rand/generator/xoroshiro128plus'

/** What chance decides in a night. Each has a stream of its own, so that changing one leaves the others as they were. */
const purposes = ['level', 'wander', 'outages', 'losses', 'computer', 'destinations'] as const
export type Purpose = (typeof purposes)[number]

export interface Chance {
  /** From 0 up to 1. */
  uniform(): number
  /** Mean 0, deviation 1. */
  normal(): number
}

/** Mixes numbers into one of 32 bits (the finaliser of MurmurHash3). */
function mixed(...values: readonly number[]): number {
  let hash = 0x9e3779b9
  for (const value of values) {
    hash = Math.imul(hash ^ value, 0x85ebca6b)
    hash = Math.imul(hash ^ (hash >>> 13), 0xc2b2ae35)
    hash ^= hash >>> 16
  }
  return hash | 0
}

/** The chance of one night of a seed for one purpose, and where several have it, for one of them. */
export function chanceOf(seed: number, night: number, purpose: Purpose, index = 0): Chance {
  const generator = xoroshiro128plus(mixed(seed, night, purposes.indexOf(purpose), index))
  const uniform = (): number => (generator.next() >>> 0) / 4_294_967_296
  let spare: number | null = null
  return {
    uniform,
    // Marsaglia's polar method (1964); from memory.
    normal() {
      if (spare !== null) {
        const value = spare
        spare = null
        return value
      }
      for (;;) {
        const [x, y] = [2 * uniform() - 1, 2 * uniform() - 1]
        const square = x * x + y * y
        if (square > 0 && square < 1) {
          const scale = Math.sqrt((-2 * Math.log(square)) / square)
          spare = y * scale
          return x * scale
        }
      }
    },
  }
}
