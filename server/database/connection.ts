import knex, { type Knex } from 'knex'
import { readSettings } from '../settings'
import { migrateUp } from './migrating'

/** No statement of ours takes nearly so long; one that waits for a lock is tried again. */
const limits = { statementSeconds: 30, lockWaitSeconds: 10 } as const

interface RawConnection {
  query(statement: string, done: (error: Error | null) => void): void
}

const limitStatements = (
  connection: RawConnection,
  done: (error: Error | null, connection: RawConnection) => void,
): void =>
  connection.query(
    `SET SESSION max_statement_time = ${limits.statementSeconds}, innodb_lock_wait_timeout = ${limits.lockWaitSeconds}`,
    (error) => done(error, connection),
  )

/** Opens a pool to a MariaDB server; nothing is connected until the first question. */
export function connect(databaseUrl: string, most = 8): Knex {
  const url = new URL(databaseUrl)
  return knex({
    client: 'mysql2',
    connection: {
      host: url.hostname,
      port: Number(url.port || 3306),
      user: decodeURIComponent(url.username),
      password: decodeURIComponent(url.password),
      database: decodeURIComponent(url.pathname.slice(1)),
      charset: 'utf8mb4',
      timezone: 'Z',
      connectTimeout: 3000,
    },
    pool: { min: 0, max: most, afterCreate: limitStatements },
    acquireConnectionTimeout: 5000,
  })
}

/** Brings the tables up to date, over a connection of its own; two servers may start at once. */
export async function migrate(databaseUrl: string): Promise<void> {
  const migrator = connect(databaseUrl, 1)
  try {
    await migrateUp(migrator)
  } finally {
    await migrator.destroy()
  }
}

let opened: Knex | undefined
let migrated: Promise<void> | undefined

/** The application's database, its tables up to date. A failed migration is tried again at the next call. */
export async function useDatabase(): Promise<Knex> {
  const { databaseUrl } = readSettings()
  const database = (opened ??= connect(databaseUrl))
  migrated ??= migrate(databaseUrl).catch((error: unknown) => {
    migrated = undefined
    throw error
  })
  await migrated
  return database
}

export async function closeDatabase(): Promise<void> {
  const closing = opened
  opened = undefined
  migrated = undefined
  await closing?.destroy()
}
