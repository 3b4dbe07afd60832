import type { Knex } from 'knex'

/** The show as it stood when a night of it was put away, by the number of the entry that did so. */
export async function up(database: Knex): Promise<void> {
  await database.schema.createTable('night_shows', (table) => {
    table.charset('utf8mb4')
    table.collate('utf8mb4_bin')
    table.string('show_id', 40).notNullable()
    table.integer('sequence').unsigned().notNullable()
    table.text('show_file', 'longtext').notNullable()
    table.primary(['show_id', 'sequence'])
    table.foreign('show_id').references('night_logs.show_id').onDelete('CASCADE')
  })
}

export async function down(database: Knex): Promise<void> {
  await database.schema.dropTableIfExists('night_shows')
}
