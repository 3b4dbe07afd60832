type Value = string | number | boolean | null
export type Row = Record<string, Value>

/** JSON columns come back parsed or as text, depending on the server and its driver. */
export const parsed = (value: unknown): unknown =>
  typeof value === 'string' ? JSON.parse(value) : value

/** JSON for a column that may be empty. */
export const jsonOrNull = (value: unknown): string | null =>
  value === null ? null : JSON.stringify(value)
