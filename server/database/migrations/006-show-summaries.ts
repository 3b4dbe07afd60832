import type { Knex } from 'knex'

/** What the list of shows says of each; filled by the application, which knows how, when a show is saved or first listed. */
export async function up(database: Knex): Promise<void> {
  await database.raw(
    'ALTER TABLE shows ADD COLUMN IF NOT EXISTS summary JSON NULL, ADD COLUMN IF NOT EXISTS summary_version INT UNSIGNED NOT NULL DEFAULT 0',
  )
  await database.raw(
    'CREATE INDEX IF NOT EXISTS shows_by_edit ON shows (deleted_at, updated_at, id)',
  )
}

export async function down(database: Knex): Promise<void> {
  await database.raw('DROP INDEX IF EXISTS shows_by_edit ON shows')
  await database.raw(
    'ALTER TABLE shows DROP COLUMN IF EXISTS summary, DROP COLUMN IF EXISTS summary_version',
  )
}
