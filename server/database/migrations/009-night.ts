import type { Knex } from 'knex'

/** A show before it had an order of its night, and how late its pages were taken to be; frozen here. */
const firstRunSheet = { people: [], marginMinutes: 5, changes: [], ownTasks: [], seen: null }
const firstLagSeconds = 8

/** The order of the night, and what is kept of it as it happens. */
export async function up(database: Knex): Promise<void> {
  await database.schema.alterTable('shows', (table) => {
    table.json('run_sheet').nullable()
  })
  await database('shows').update({ run_sheet: JSON.stringify(firstRunSheet) })
  await database.schema.alterTable('destinations', (table) => {
    table.double('lag_seconds').notNullable().defaultTo(firstLagSeconds)
  })
  // The row that is locked while an event is written, so that none is numbered out of turn.
  await database.schema.createTable('night_logs', (table) => {
    table.charset('utf8mb4')
    table.collate('utf8mb4_bin')
    table.string('show_id', 40).notNullable().primary()
    table.integer('last_sequence').unsigned().notNullable()
    table.foreign('show_id').references('shows.id').onDelete('CASCADE')
  })
  await database.schema.createTable('night_events', (table) => {
    table.charset('utf8mb4')
    table.collate('utf8mb4_bin')
    table.string('show_id', 40).notNullable()
    table.integer('sequence').unsigned().notNullable()
    table.string('event_id', 40).notNullable()
    table.json('event').notNullable()
    table.primary(['show_id', 'sequence'])
    table.unique(['show_id', 'event_id'])
    table.foreign('show_id').references('night_logs.show_id').onDelete('CASCADE')
  })
  // Who has one may tick and mark on this show's night until it ends, and nothing else.
  await database.schema.createTable('night_links', (table) => {
    table.charset('utf8mb4')
    table.collate('utf8mb4_bin')
    table.string('token_hash', 64).notNullable().primary()
    table.string('show_id', 40).notNullable().index()
    table.dateTime('ends_at').notNullable()
    table.foreign('show_id').references('shows.id').onDelete('CASCADE')
  })
}

export async function down(database: Knex): Promise<void> {
  await database.schema.dropTableIfExists('night_links')
  await database.schema.dropTableIfExists('night_events')
  await database.schema.dropTableIfExists('night_logs')
  await database.schema.alterTable('destinations', (table) => table.dropColumns('lag_seconds'))
  await database.schema.alterTable('shows', (table) => table.dropColumns('run_sheet'))
}
