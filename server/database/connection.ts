import knex, { type Knex } from 'knex'
import { readSettings } from '../settings'
import { migrationSource } from './migrations'

/** Opens a pool to a MariaDB server; nothing is connected until the first question. */
export function connect(databaseUrl: string): Knex {
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
    pool: { min: 0, max: 8 },
    acquireConnectionTimeout: 5000,
  })
}

/** Brings the tables up to date. Migrations run under a lock, so two servers may start at once. */
export async function migrate(database: Knex): Promise<void> {
  await database.migrate.latest({ migrationSource })
}

let opened: Knex | undefined
let migrated: Promise<void> | undefined

/** The application's database, its tables up to date. A failed migration is tried again at the next call. */
export async function useDatabase(): Promise<Knex> {
  const database = (opened ??= connect(readSettings().databaseUrl))
  migrated ??= migrate(database).catch((error: unknown) => {
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
