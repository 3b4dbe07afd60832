import type { Knex } from 'knex'

/** Before, no computer was measured. JSON_INSERT leaves what is there, so that it can be run again. */
export async function up(database: Knex): Promise<void> {
  await database('shows').update({
    computer: database.raw(`JSON_INSERT(computer, '$.measured', JSON_EXTRACT('null', '$'))`),
  })
}

export async function down(database: Knex): Promise<void> {
  await database('shows').update({ computer: database.raw(`JSON_REMOVE(computer, '$.measured')`) })
}
