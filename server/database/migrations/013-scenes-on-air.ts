import type { Knex } from 'knex'

/** How a single scene comes on air, and what stands there for a device that is gone. */
const columns = ['comes_by', 'without_device'] as const

export async function up(database: Knex): Promise<void> {
  await database.schema.alterTable('scenes', (table) => {
    table.string(columns[0], 200).nullable()
    table.string(columns[1], 20).nullable()
  })
}

export async function down(database: Knex): Promise<void> {
  await database.schema.alterTable('scenes', (table) => table.dropColumns(...columns))
}
