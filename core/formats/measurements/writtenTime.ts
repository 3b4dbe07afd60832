import { DateTime } from 'luxon'

/** Day before month: what a person writes who does not follow ISO 8601. */
const writtenOrders = ['d/M/yyyy H:mm', 'd.M.yyyy H:mm'] as const

/**
 * A time as a person or a program writes it (ISO 8601, an HTTP date, day, month and year), as ISO
 * 8601 in UTC; one without a zone of its own is of `timeZone`. null where it is no time.
 */
export function readWrittenTime(written: string, timeZone: string): string | null {
  const zone = { zone: timeZone }
  const read = [
    DateTime.fromISO(written.replace(' ', 'T'), zone),
    DateTime.fromHTTP(written, zone),
    ...writtenOrders.map((order) => DateTime.fromFormat(written, order, zone)),
  ].find(({ isValid }) => isValid)
  return read?.toUTC().toISO() ?? null
}
