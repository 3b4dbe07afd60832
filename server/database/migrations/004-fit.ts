import type { Knex } from 'knex'

const identifierLength = 40
const textLength = 200

/** What every part was like before it could be said; frozen here as it was then. */
const firstWish = { priority: 3, mustKeep: false, leftOut: false, routePinned: true }
const firstEncoder = {
  deviceId: null,
  rateControl: 'constant',
  profile: 'high',
  lookAheadFrames: 0,
  downscaling: 'lanczos',
}
/** Cells had been set by hand, and stay so until a plan is asked for. */
const firstFit = { automatic: false, floorScore: 50 }
const firstComputer = { name: '', devices: [], freeDiskGigabytes: null }

export async function up(database: Knex): Promise<void> {
  await database.schema.alterTable('shows', (table) => {
    table.json('fit').nullable()
    table.json('computer').nullable()
  })
  await database('shows').update({
    fit: JSON.stringify(firstFit),
    computer: JSON.stringify(firstComputer),
  })
  await database.schema.alterTable('destinations', (table) => {
    table.json('plan').nullable()
  })
  await database('destinations').update({ plan: JSON.stringify(firstWish) })
  await database.schema.alterTable('renditions', (table) => {
    table.json('encoder').nullable()
    table.json('pins').nullable()
  })
  await database('renditions').update({ encoder: JSON.stringify(firstEncoder), pins: '[]' })
  const createPart = (name: string, columns: (table: Knex.CreateTableBuilder) => void) =>
    database.schema.createTable(name, (table) => {
      table.charset('utf8mb4')
      table.collate('utf8mb4_bin')
      table.string('show_id', identifierLength).notNullable()
      table.string('id', identifierLength).notNullable()
      table.integer('position').unsigned().notNullable()
      table.string('name', textLength).notNullable()
      columns(table)
      table.primary(['show_id', 'id'])
      table.foreign('show_id').references('shows.id').onDelete('CASCADE')
    })
  await createPart('recordings', (table) => {
    table.string('canvas', 20).notNullable()
    table.boolean('is_on').notNullable()
    table.string('mix', 20).notNullable()
    table.integer('most_video_bitrate_kbps').unsigned().notNullable()
    for (const column of ['plan', 'viewers', 'codecs', 'rendition'])
      table.json(column).notNullable()
  })
  await createPart('kept_plans', (table) => {
    table.json('parts').notNullable()
  })
}

export async function down(database: Knex): Promise<void> {
  await database.schema.dropTableIfExists('kept_plans')
  await database.schema.dropTableIfExists('recordings')
  await database.schema.alterTable('renditions', (table) => table.dropColumns('encoder', 'pins'))
  await database.schema.alterTable('destinations', (table) => table.dropColumns('plan'))
  await database.schema.alterTable('shows', (table) => table.dropColumns('fit', 'computer'))
}
