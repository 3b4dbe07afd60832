import type { Knex } from 'knex'

/**
 * The installation's own computer, and shows in which none was measured. Both can be run again:
 * JSON_INSERT leaves what is there.
 */
export async function up(database: Knex): Promise<void> {
  await database.raw(
    `CREATE TABLE IF NOT EXISTS own_computer (
      id TINYINT UNSIGNED NOT NULL PRIMARY KEY,
      installation VARCHAR(64) NOT NULL,
      computer JSON NULL
    )`,
  )
  await database('shows').update({
    computer: database.raw(`JSON_INSERT(computer, '$.measured', JSON_EXTRACT('null', '$'))`),
  })
}

export async function down(database: Knex): Promise<void> {
  await database.schema.dropTableIfExists('own_computer')
  await database('shows').update({ computer: database.raw(`JSON_REMOVE(computer, '$.measured')`) })
}
