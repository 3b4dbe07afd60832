const minute = 60
const hour = 60 * minute
const day = 24 * hour

/** How long before the start each thing is due at the latest; common practice, no published source. */
export const leadSeconds = {
  access: 5 * day,
  announce: 3 * day,
  words: day,
  line: hour,
  quiet: 50 * minute,
  power: 45 * minute,
  disk: 45 * minute,
  encoders: 45 * minute,
  rehearsed: 45 * minute,
  sources: 40 * minute,
  levels: 35 * minute,
  accounts: 30 * minute,
  keys: 25 * minute,
} as const

/** How long each kind of thing takes a person; common practice, no published source. */
export const taskSeconds = {
  short: 15,
  press: 30,
  look: 45,
  paste: 2 * minute,
  measure: 5 * minute,
  arrange: 10 * minute,
} as const

/** A line that was measured longer ago says little of the evening. */
export const freshLineSeconds = hour
