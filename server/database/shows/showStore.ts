import type { Show } from '@green-mantle/core/show'
import type { Knex } from 'knex'
import { groupBy } from './groupBy'
import { type Row } from './row'
import { rowChanges } from './rowChanges'
import {
  type PartTable,
  partTableNames,
  partTables,
  rowsFromShow,
  showFromRows,
  type ShowRows,
} from './rows'
import { inTransaction } from '../transactions'
import { keepRows, lastRows } from './lastRows'
import { summaryColumns } from './summary'
import { inTurn } from './turns'

export interface StoredShow {
  id: string
  revision: number
  updatedAt: Date
  show: Show
}

export type SaveResult =
  | { outcome: 'saved'; revision: number }
  | { outcome: 'not found' }
  | { outcome: 'changed since'; current: StoredShow }

/** Deleted shows can be brought back for this long. */
const keepDeletedDays = 30

async function readParts(database: Knex, showIds: string[]): Promise<Map<string, Row[]>[]> {
  return Promise.all(
    partTableNames.map(async (table) => {
      const query = database<Row>(table).whereIn('show_id', showIds)
      const rows = (await (hasPosition(table) ? query.orderBy('position') : query)) as Row[]
      return groupBy(rows, (row) => row.show_id)
    }),
  )
}

const hasPosition = (table: PartTable): boolean => table !== 'canvases' && table !== 'placements'

/** Puts shows together from their rows; throws where the rows of one make no valid show. */
export async function assemble(database: Knex, heads: Row[]): Promise<StoredShow[]> {
  if (heads.length === 0) return []
  const parts = await readParts(
    database,
    heads.map((head) => String(head.id)),
  )
  return heads.map((head) => {
    const rows = Object.fromEntries(
      partTableNames.map((table, index) => [table, parts[index]?.get(String(head.id)) ?? []]),
    ) as Record<PartTable, Row[]>
    return {
      id: String(head.id),
      revision: Number(head.revision),
      updatedAt: new Date(head.updated_at as string),
      show: showFromRows({ shows: head, ...rows }),
    }
  })
}

/** One show as it was last saved; undefined where there is none or it is deleted. */
export async function readShow(database: Knex, id: string): Promise<StoredShow | undefined> {
  return database.transaction((transaction) => readShowIn(transaction, id), { readOnly: true })
}

/** The revision of a show, without reading the show; undefined where there is none. */
export async function readRevision(database: Knex, id: string): Promise<number | undefined> {
  const head = await database<Row>('shows').where({ id }).whereNull('deleted_at').first('revision')
  return head && Number(head.revision)
}

/** Likewise, as a transaction sees it. */
export async function readShowIn(
  transaction: Knex.Transaction,
  id: string,
): Promise<StoredShow | undefined> {
  const heads = await transaction<Row>('shows').where({ id }).whereNull('deleted_at')
  return (await assemble(transaction, heads))[0]
}

async function writeChanges(
  transaction: Knex.Transaction,
  id: string,
  before: ShowRows | undefined,
  after: ShowRows,
): Promise<void> {
  const changes = partTableNames.map((table) => ({
    table,
    keys: partTables[table],
    ...rowChanges(before?.[table] ?? [], after[table], partTables[table]),
  }))
  // Children go before their parents and come after them.
  for (const { table, keys, removed } of changes.toReversed()) {
    if (removed.length === 0) continue
    await transaction(table)
      .where({ show_id: id })
      .whereIn(
        [...keys],
        removed.map((row) => keys.map((key) => row[key] as string)),
      )
      .delete()
  }
  for (const { table, keys, written } of changes) {
    if (written.length === 0) continue
    await transaction(table)
      .insert(written.map((row) => ({ show_id: id, ...row })))
      .onConflict(['show_id', ...keys])
      .merge()
  }
}

/** Stores a new show; resolves after commit. */
export async function createShow(database: Knex, id: string, show: Show): Promise<StoredShow> {
  const now = new Date()
  const rows = rowsFromShow(show)
  await inTransaction(database, async (transaction) => {
    await transaction('shows').insert({
      id,
      revision: 1,
      created_at: now,
      updated_at: now,
      ...rows.shows,
      ...summaryColumns(show),
    })
    await writeChanges(transaction, id, undefined, rows)
  })
  keepRows(database, id, 1, rows)
  return { id, revision: 1, updatedAt: now, show }
}

/**
 * Saves a show that was edited from `revision`, in one transaction; resolves after commit. Where it
 * has been saved by someone else since, nothing is written and the current show comes back.
 */
export async function saveShow(
  database: Knex,
  id: string,
  revision: number,
  show: Show,
): Promise<SaveResult> {
  return inTurn(id, () => saveInTurn(database, id, revision, show))
}

async function saveInTurn(
  database: Knex,
  id: string,
  revision: number,
  show: Show,
): Promise<SaveResult> {
  // Who comes too late is told without a lock on anything; who saved last is hardly too late.
  if (!lastRows(database, id, revision)) {
    const head = await database<Row>('shows')
      .where({ id })
      .whereNull('deleted_at')
      .first('revision')
    if (!head) return { outcome: 'not found' }
    if (head.revision !== revision) {
      const current = await readShow(database, id)
      return current ? { outcome: 'changed since', current } : { outcome: 'not found' }
    }
  }
  const [rows, summary] = [rowsFromShow(show), summaryColumns(show)]
  const result = await inTransaction(database, async (transaction): Promise<SaveResult> => {
    const row = () => transaction<Row>('shows').where({ id }).whereNull('deleted_at')
    const head = { ...rows.shows, ...summary, revision: revision + 1, updated_at: new Date() }
    const update = (where: object) =>
      transaction('shows').where(where).whereNull('deleted_at').update(head)
    const saved = { outcome: 'saved', revision: revision + 1 } as const
    // Where this process saved last, what is there need not be read: locking, comparing and raising
    // the revision are one statement, which meets no row where another was quicker.
    const known = lastRows(database, id, revision)
    if (known && (await update({ id, revision })) === 1) {
      await writeChanges(transaction, id, known, rows)
      return saved
    }
    if (!(await row().forUpdate().first('revision'))) return { outcome: 'not found' }
    const [current] = await assemble(transaction, (await row()) as Row[])
    if (!current) return { outcome: 'not found' }
    if (current.revision !== revision) return { outcome: 'changed since', current }
    await update({ id })
    await writeChanges(transaction, id, rowsFromShow(current.show), rows)
    return saved
  })
  if (result.outcome === 'saved') keepRows(database, id, result.revision, rows)
  return result
}

/** Marks a show as deleted; false where there is none. */
export async function deleteShow(database: Knex, id: string): Promise<boolean> {
  const count = await database('shows')
    .where({ id })
    .whereNull('deleted_at')
    .update({ deleted_at: new Date() })
  return count > 0
}

/** Brings a deleted show back; false where there is none. */
export async function restoreShow(database: Knex, id: string): Promise<boolean> {
  const count = await database('shows')
    .where({ id })
    .whereNotNull('deleted_at')
    .update({ deleted_at: null })
  return count > 0
}

/** Removes for good what was deleted long ago. */
export async function purgeDeletedShows(database: Knex, now = new Date()): Promise<number> {
  const before = new Date(now.getTime() - keepDeletedDays * 24 * 60 * 60 * 1000)
  return database('shows').where('deleted_at', '<', before).delete()
}

/** Whether no show was ever made here; deleted ones count as made. */
export async function isEmpty(database: Knex): Promise<boolean> {
  return (await database('shows').first('id')) === undefined
}
