import type { Knex } from 'knex'

/** A picture of one's own, measured from a clip: a show's, and those that were measured here. */
export async function up(database: Knex): Promise<void> {
  await database.schema.alterTable('shows', (table) => {
    table.json('own_picture').nullable()
  })
  await database.schema.createTable('own_pictures', (table) => {
    table.charset('utf8mb4')
    table.collate('utf8mb4_bin')
    table.string('id', 40).notNullable().primary()
    table.string('measured_at', 40).notNullable().index()
    table.json('picture').notNullable()
  })
}

export async function down(database: Knex): Promise<void> {
  await database.schema.dropTableIfExists('own_pictures')
  await database('shows').where({ picture_kind: 'own' }).update({ picture_kind: 'talking' })
  await database.schema.alterTable('shows', (table) => table.dropColumns('own_picture'))
}
