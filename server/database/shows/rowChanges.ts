import { isSameJson } from '@green-mantle/core/show'
import type { Row } from './row'

export interface RowChanges {
  removed: Row[]
  /** New and altered rows alike. */
  written: Row[]
}

/** What has to be removed and written to make one set of rows into another; rows are matched by their key columns. */
export function rowChanges(
  before: readonly Row[],
  after: readonly Row[],
  keyColumns: readonly string[],
): RowChanges {
  // Most of a show is as it was: then nothing need be matched.
  if (before.length === after.length && after.every((row, at) => isSameJson(before[at], row)))
    return { removed: [], written: [] }
  // No identifier holds this.
  const keyOf = (row: Row): string => keyColumns.map((column) => row[column]).join('\u0000')
  const beforeByKey = new Map(before.map((row) => [keyOf(row), row]))
  const afterKeys = new Set(after.map(keyOf))
  return {
    removed: before.filter((row) => !afterKeys.has(keyOf(row))),
    written: after.filter((row) => !isSameJson(beforeByKey.get(keyOf(row)), row)),
  }
}
