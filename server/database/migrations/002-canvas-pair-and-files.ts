import type { Knex } from 'knex'

/** The look that shows had before they could choose one; frozen here as it was then. */
const firstDressing = {
  name: 'Lichen',
  frame: { widthPixels: 0, colour: '#dce7cf' },
  cornerRadiusPixels: 0,
  label: { place: 'no label', textColour: '#fffdf6', bandColour: '#0e1a15', sizePixels: 30 },
  goalBar: {
    textColour: '#1f2a23',
    bandColour: '#fffdf6',
    trackColour: '#dce7cf',
    filledColour: '#2f5d3a',
  },
  alerts: { textColour: '#fffdf6', bandColour: '#5f2d55' },
}

/** Words filled their box on one line before they had a size of their own. */
const typeOfOldWords = `
  UPDATE sources SET appearance = JSON_SET(
    appearance,
    '$.font', 'Literata',
    '$.weight', 600,
    '$.sizePixels', LEAST(1000, GREATEST(4, ROUND(LEAST(
      native_height * 0.62,
      native_width / (0.52 * GREATEST(1, CHAR_LENGTH(JSON_VALUE(appearance, '$.text'))))
    )))),
    '$.wrap', TRUE,
    '$.band', TRUE
  ) WHERE JSON_VALUE(appearance, '$.type') = 'text'`

export async function up(database: Knex): Promise<void> {
  await database.schema.alterTable('shows', (table) => {
    table.string('transition_kind', 20).notNullable().defaultTo('fade')
    table.integer('transition_milliseconds').unsigned().notNullable().defaultTo(300)
    table.json('dressing').nullable()
  })
  await database('shows').update({ dressing: JSON.stringify(firstDressing) })
  await database.schema.alterTable('sources', (table) => {
    table.json('focus').nullable()
    table.json('chroma_key').nullable()
  })
  await database.raw(typeOfOldWords)
  await database.schema.alterTable('scenes', (table) => {
    table.string('role', 20).nullable()
    // No foreign key: scenes of one save may name each other in any order. The document is checked.
    table.string('vertical_of', 40).nullable()
  })
  await database.schema.alterTable('placements', (table) => {
    table.double('opacity_percent').notNullable().defaultTo(100)
    table.double('corner_radius').nullable()
    table.boolean('dressed').notNullable().defaultTo(true)
  })
  await database.schema.alterTable('destinations', (table) => {
    table.json('cover_zones').nullable()
  })
  await database('destinations').update({ cover_zones: '[]' })
  await database.schema.createTable('files', (table) => {
    table.charset('utf8mb4')
    table.collate('utf8mb4_bin')
    // The SHA-256 of the contents.
    table.string('id', 64).primary()
    table.string('media_type', 100).notNullable()
    table.integer('byte_count').unsigned().notNullable()
    table.integer('width').unsigned().nullable()
    table.integer('height').unsigned().nullable()
    table.datetime('created_at', { precision: 3 }).notNullable()
  })
  await database.schema.createTable('file_chunks', (table) => {
    table.charset('utf8mb4')
    table.collate('utf8mb4_bin')
    table.string('file_id', 64).notNullable()
    table.integer('position').unsigned().notNullable()
    table.specificType('bytes', 'MEDIUMBLOB').notNullable()
    table.primary(['file_id', 'position'])
    table.foreign('file_id').references('files.id').onDelete('CASCADE')
  })
}

export async function down(database: Knex): Promise<void> {
  await database.schema.dropTableIfExists('file_chunks')
  await database.schema.dropTableIfExists('files')
  const drop = (table: string, columns: string[]) =>
    database.schema.alterTable(table, (builder) => builder.dropColumns(...columns))
  await drop('destinations', ['cover_zones'])
  await drop('placements', ['opacity_percent', 'corner_radius', 'dressed'])
  await drop('scenes', ['role', 'vertical_of'])
  await drop('sources', ['focus', 'chroma_key'])
  await drop('shows', ['transition_kind', 'transition_milliseconds', 'dressing'])
}
