/** A part of a file before it is checked. */
export type Part = Record<string, unknown>

export const isPart = (value: unknown): value is Part =>
  typeof value === 'object' && value !== null && !Array.isArray(value)

/** Changes every part of a list; what is no list, and what in it is no part, stays as it is. */
export const eachPart = (list: unknown, change: (part: Part) => Part): unknown =>
  Array.isArray(list) ? list.map((item) => (isPart(item) ? change(item) : item)) : list
