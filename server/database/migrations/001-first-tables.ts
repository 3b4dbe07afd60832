import type { Knex } from 'knex'

const identifierLength = 40
const textLength = 200

/**
 * Parts of a show are known by the show's identifier and their own, so that a copy of a show can
 * keep the identifiers inside it.
 */
function partOfShow(table: Knex.CreateTableBuilder): void {
  table.string('show_id', identifierLength).notNullable()
  table.string('id', identifierLength).notNullable()
  table.integer('position').unsigned().notNullable()
  table.primary(['show_id', 'id'])
  table.foreign('show_id').references('shows.id').onDelete('CASCADE')
}

function partOf(table: Knex.CreateTableBuilder, column: string, parent: string): void {
  table.string(column, identifierLength).notNullable()
  table
    .foreign(['show_id', column])
    .references(['show_id', 'id'])
    .inTable(parent)
    .onDelete('CASCADE')
}

export async function up(database: Knex): Promise<void> {
  const create = (name: string, columns: (table: Knex.CreateTableBuilder) => void) =>
    database.schema.createTable(name, (table) => {
      table.charset('utf8mb4')
      // Identifiers differ by case, so they are compared byte by byte.
      table.collate('utf8mb4_bin')
      columns(table)
    })
  await create('shows', (table) => {
    table.string('id', identifierLength).primary()
    table.integer('revision').unsigned().notNullable()
    table.string('title', textLength).notNullable()
    table.string('starts_at', 16).notNullable()
    table.string('time_zone', 64).notNullable()
    table.integer('duration_minutes').unsigned().notNullable()
    table.string('picture_kind', 20).notNullable()
    table.integer('frames_per_second').unsigned().notNullable()
    table.string('line_name', textLength).notNullable()
    table.double('headroom_percent').notNullable()
    table.datetime('created_at', { precision: 3 }).notNullable()
    table.datetime('updated_at', { precision: 3 }).notNullable()
    table.datetime('deleted_at', { precision: 3 }).nullable()
  })
  await create('canvases', (table) => {
    table.string('show_id', identifierLength).notNullable()
    table.string('canvas', 20).notNullable()
    table.integer('width').unsigned().notNullable()
    table.integer('height').unsigned().notNullable()
    table.primary(['show_id', 'canvas'])
    table.foreign('show_id').references('shows.id').onDelete('CASCADE')
  })
  await create('sources', (table) => {
    partOfShow(table)
    table.string('name', textLength).notNullable()
    table.string('kind', 20).notNullable()
    table.integer('native_width').unsigned().notNullable()
    table.integer('native_height').unsigned().notNullable()
    table.double('native_frames_per_second').nullable()
    table.json('appearance').notNullable()
  })
  await create('scenes', (table) => {
    partOfShow(table)
    table.string('name', textLength).notNullable()
  })
  await create('layers', (table) => {
    // A layer's identifier is its own within its scene only.
    table.string('show_id', identifierLength).notNullable()
    partOf(table, 'scene_id', 'scenes')
    table.string('id', identifierLength).notNullable()
    partOf(table, 'source_id', 'sources')
    table.integer('position').unsigned().notNullable()
    table.primary(['show_id', 'scene_id', 'id'])
  })
  await create('placements', (table) => {
    table.string('show_id', identifierLength).notNullable()
    table.string('scene_id', identifierLength).notNullable()
    table.string('layer_id', identifierLength).notNullable()
    table.string('canvas', 20).notNullable()
    for (const column of ['x', 'y', 'width', 'height', 'turn_degrees'])
      table.double(column).notNullable()
    for (const column of ['flipped_across', 'flipped_down', 'shown', 'locked'])
      table.boolean(column).notNullable()
    for (const edge of ['left', 'top', 'right', 'bottom'])
      table.double(`trim_${edge}`).notNullable()
    table.primary(['show_id', 'scene_id', 'layer_id', 'canvas'])
    table
      .foreign(['show_id', 'scene_id', 'layer_id'])
      .references(['show_id', 'scene_id', 'id'])
      .inTable('layers')
      .onDelete('CASCADE')
    table
      .foreign(['show_id', 'canvas'])
      .references(['show_id', 'canvas'])
      .inTable('canvases')
      .onDelete('CASCADE')
  })
  await create('line_samples', (table) => {
    partOfShow(table)
    // As text, since the document keeps the instant as it was written.
    table.string('measured_at', 40).notNullable()
    table.double('upload_kbps').notNullable()
    table.string('medium', 20).notNullable()
    table.double('round_trip_milliseconds').nullable()
    table.double('loss_percent').nullable()
    table.string('note', textLength).notNullable()
  })
  await create('other_traffic', (table) => {
    partOfShow(table)
    table.string('name', textLength).notNullable()
    table.double('bitrate_kbps').notNullable()
    table.boolean('is_on').notNullable()
  })
  await create('destinations', (table) => {
    partOfShow(table)
    table.string('name', textLength).notNullable()
    table.string('note', textLength).notNullable()
    table.string('canvas', 20).notNullable()
    table.string('connection', 20).notNullable()
    table.string('protocol', 20).notNullable()
    table.boolean('is_on').notNullable()
    table.json('viewers').notNullable()
    table.json('rules').notNullable()
    table
      .foreign(['show_id', 'canvas'])
      .references(['show_id', 'canvas'])
      .inTable('canvases')
      .onDelete('CASCADE')
  })
  await create('renditions', (table) => {
    table.string('show_id', identifierLength).notNullable()
    partOf(table, 'destination_id', 'destinations')
    table.string('id', identifierLength).notNullable()
    table.integer('position').unsigned().notNullable()
    for (const column of ['width', 'height', 'frames_per_second', 'video_bitrate_kbps', 'b_frames'])
      table.integer(column).unsigned().notNullable()
    table.string('codec', 20).notNullable()
    table.string('effort', 20).notNullable()
    table.double('keyframe_interval_seconds').notNullable()
    table.integer('audio_bitrate_kbps').unsigned().notNullable()
    table.integer('audio_sample_rate_hz').unsigned().notNullable()
    table.primary(['show_id', 'destination_id', 'id'])
  })
}

export async function down(database: Knex): Promise<void> {
  for (const table of [
    'renditions',
    'destinations',
    'other_traffic',
    'line_samples',
    'placements',
    'layers',
    'scenes',
    'sources',
    'canvases',
    'shows',
  ])
    await database.schema.dropTableIfExists(table)
}
