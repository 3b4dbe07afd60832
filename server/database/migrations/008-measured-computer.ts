import type { Knex } from 'knex'

/** The installation's own computer, the last trial of each show, and shows in which no computer was measured. */
export async function up(database: Knex): Promise<void> {
  await database.schema.createTable('own_computer', (table) => {
    table.charset('utf8mb4')
    table.collate('utf8mb4_bin')
    table.tinyint('id').unsigned().notNullable().primary()
    table.string('installation', 64).notNullable()
    table.json('computer').nullable()
  })
  // No part of the show, since it is of this computer and this evening.
  await database.schema.createTable('trials', (table) => {
    table.charset('utf8mb4')
    table.collate('utf8mb4_bin')
    table.string('show_id', 40).notNullable().primary()
    table.json('result').notNullable()
    table.foreign('show_id').references('shows.id').onDelete('CASCADE')
  })
  // JSON_INSERT leaves what is there, so that it can be run again.
  await database('shows').update({
    computer: database.raw(`JSON_INSERT(computer, '$.measured', JSON_EXTRACT('null', '$'))`),
  })
}

export async function down(database: Knex): Promise<void> {
  await database.schema.dropTableIfExists('trials')
  await database.schema.dropTableIfExists('own_computer')
  await database('shows').update({ computer: database.raw(`JSON_REMOVE(computer, '$.measured')`) })
}
