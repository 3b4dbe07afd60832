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
  const keyOf = (row: Row): string => JSON.stringify(keyColumns.map((column) => row[column]))
  const beforeByKey = new Map(before.map((row) => [keyOf(row), row]))
  const afterKeys = new Set(after.map(keyOf))
  return {
    removed: before.filter((row) => !afterKeys.has(keyOf(row))),
    written: after.filter((row) => !isSameJson(beforeByKey.get(keyOf(row)), row)),
  }
}
