import fc from 'fast-check'

/** How much of all that they try the heavy tests try: between whole runs (`npm run test:changed`) a part. */
const share = Number(process.env.SHARE_OF_RUNS ?? 1)
export const isWholeRun = share === 1

export const runsOf = (whole: number): number => Math.ceil(whole * share)

/** As much of a list. */
export const partOf = <T>(whole: readonly T[]): T[] =>
  whole.filter((_, index) => index % Math.round(1 / share) === 0)

/** The same every time, since a few of what chance makes take the search minutes; PROPERTY_SEED tries others. */
export const propertySeed = Number(process.env.PROPERTY_SEED ?? 1)

/** Holds a property against so many things that chance makes. */
export function check<T>(
  arbitrary: fc.Arbitrary<T>,
  wholeRuns: number,
  holds: (value: T) => void,
): void {
  fc.assert(fc.property(arbitrary, holds), {
    numRuns: runsOf(wholeRuns),
    seed: propertySeed,
  })
}
