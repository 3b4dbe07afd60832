import type { Knex } from 'knex'

/** What a sender has under way, so that the next start can tell the log of it where the server was killed. */
export async function up(database: Knex): Promise<void> {
  await database.schema.createTable('night_under_way', (table) => {
    table.charset('utf8mb4')
    table.collate('utf8mb4_bin')
    table.string('show_id', 40).primary()
    // Who looks after it: the machine and the number of the process there.
    table.string('machine', 255).notNullable()
    table.integer('process_id').unsigned().notNullable()
    table.text('under_way', 'mediumtext').notNullable()
    table.datetime('seen_at', { precision: 3 }).notNullable()
    table.foreign('show_id').references('shows.id').onDelete('CASCADE')
  })
}

export async function down(database: Knex): Promise<void> {
  await database.schema.dropTableIfExists('night_under_way')
}
