/**
 * The two tiers of tests, told apart by what a test costs and shows (CONTRIBUTING.md): `npm test` holds
 * every feature and every kind of check once, `npm run test:deep` tries all that there is.
 */
export const isDeep = process.env.GREEN_MANTLE_TEST_TIER === 'deep'

/** How much of what chance makes is tried. */
const share = isDeep ? 1 : 0.1

export const runsOf = (whole: number): number => Math.ceil(whole * share)

/** A list in whole, or of it what shows every kind of thing once. */
export const casesOf = <T>(
  whole: readonly T[],
  showsAKind: (each: T, index: number) => boolean,
): T[] => whole.filter((each, index) => isDeep || showsAKind(each, index))

/** A time within which something has to be; a machine that is busy gets ten times as much. */
export const mostMilliseconds = (quiet: number): number => (isDeep ? quiet : 10 * quiet)

/** How often a case has to come up in a whole run; a part of one may miss it by chance. */
export const timesOf = (whole: number): number => (isDeep ? whole : 0)

/** Today as a number, as 20261201: every day tries others, and a day can be tried again. */
const today = Number(new Date().toISOString().slice(0, 10).replaceAll('-', ''))

/** What chance begins with in every property; PROPERTY_SEED tries that of another day again. */
export const propertySeed = Number(process.env.PROPERTY_SEED ?? today)
