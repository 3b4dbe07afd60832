/** The number of a log entry as a request names it; 0 where it names none. */
export const sequenceFrom = (value: unknown): number =>
  typeof value === 'string' && /^\d{1,9}$/.test(value) ? Number(value) : 0
