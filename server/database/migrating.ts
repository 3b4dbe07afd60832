import type { Knex } from 'knex'
import { migrations } from './migrations'
import { checkRoom } from './room'
import { againWhereGivenUp } from './transactions'

/** How long another server's migration is waited for. */
const longestWaitSeconds = 120

/**
 * What MariaDB says where a statement was carried out before: a table, column, index, key or row that
 * is there, or one to be dropped that is not.
 */
const alreadyDone = new Set([1022, 1050, 1060, 1061, 1062, 1068, 1091, 1826])

/** A foreign key of that name is there; the code alone says no more than that the table can't be made. */
const isKeyThere = (error: { errno?: number; message?: string }): boolean =>
  error.errno === 1005 && (error.message?.includes('errno: 121') ?? false)

const wasDone = (error: { errno?: number; message?: string }): boolean =>
  alreadyDone.has(error.errno ?? 0) || isKeyThere(error)

interface Statement {
  sql: string
  response?: unknown[]
}
interface Client {
  _query(connection: unknown, statement: Statement | string): Promise<unknown>
}

interface Options {
  /** Called after a statement was carried out and before that is noted; for tests of what a kill leaves. */
  afterStatement?: (migration: string, statement: number) => void
}

/**
 * Brings the tables up to date, however an earlier run ended. Statements that change tables commit by
 * themselves, so each is noted once it is carried out and passed over by the next run; one that was
 * carried out and not noted is known by what the database says of it. The lock is the connection's
 * own: it ends with the connection, and so with a server that is killed. `migrator` is a Knex with
 * one connection; it is left without a hook.
 */
export async function migrateUp(migrator: Knex, { afterStatement }: Options = {}): Promise<void> {
  const [[locked]] = (await migrator.raw('SELECT GET_LOCK(CONCAT(?, MD5(DATABASE())), ?) AS got', [
    'migrations of ',
    longestWaitSeconds,
  ])) as [{ got: number | null }[]]
  if (locked?.got !== 1)
    throw new Error(
      `Another server has been changing the tables for over ${longestWaitSeconds} s. Is one still running?`,
    )
  try {
    await ensureLists(migrator)
    const done = await migrator('knex_migrations').pluck<string[]>('name')
    const known = new Set(migrations.map(({ name }) => name))
    const unknown = done.filter((name) => !known.has(name))
    if (unknown.length > 0)
      throw new Error(
        `The database was made by a newer version: it has ${unknown.join(', ')}, which is not known here. Nothing was changed.`,
      )
    for (const { name, up } of migrations) {
      if (done.includes(name)) continue
      // A migration rewrites what is there; on a full disk it would end the database in the middle.
      await checkRoom()
      await resumably(migrator, name, up, afterStatement)
      await migrator.transaction(async (transaction) => {
        await transaction('knex_migrations').insert({ name, batch: 1 })
        await transaction('migration_progress').where({ name }).delete()
      })
    }
  } finally {
    await migrator.raw('SELECT RELEASE_LOCK(CONCAT(?, MD5(DATABASE())))', ['migrations of '])
  }
}

/** The list of what is done is Knex's own, so that its commands go on working; beside it how far one got. */
async function ensureLists(migrator: Knex): Promise<void> {
  await migrator.raw(`CREATE TABLE IF NOT EXISTS knex_migrations (
    id INT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
    name VARCHAR(255), batch INT, migration_time TIMESTAMP NOT NULL DEFAULT CURRENT_TIMESTAMP)`)
  await migrator.raw(`CREATE TABLE IF NOT EXISTS migration_progress (
    name VARCHAR(255) NOT NULL PRIMARY KEY, statements INT UNSIGNED NOT NULL)`)
}

/** Runs a migration with every statement that was noted before passed over. */
async function resumably(
  migrator: Knex,
  name: string,
  up: (database: Knex) => Promise<void>,
  afterStatement: Options['afterStatement'],
): Promise<void> {
  const noted = await migrator('migration_progress').where({ name }).first<{ statements: number }>()
  const client = migrator.client as Client
  const query = client._query.bind(client)
  let statement = 0
  client._query = async (connection, given) => {
    const asked: Statement = typeof given === 'string' ? { sql: given } : given
    statement += 1
    if (statement <= (noted?.statements ?? 0)) {
      asked.response = [[], []]
      return asked
    }
    const carryOut = () => query(connection, asked)
    const answer = await againWhereGivenUp(carryOut).catch((error: unknown) => {
      if (!wasDone(error as { errno?: number; message?: string })) throw error
      asked.response = [[], []]
      return asked
    })
    afterStatement?.(name, statement)
    await query(connection, {
      sql: `INSERT INTO migration_progress (name, statements) VALUES ('${name}', ${statement})
        ON DUPLICATE KEY UPDATE statements = ${statement}`,
    })
    return answer
  }
  try {
    await up(migrator)
  } finally {
    client._query = query
  }
}
