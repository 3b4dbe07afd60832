import type { Knex } from 'knex'

const identifierLength = 40
const textLength = 200
const addressLength = 500

/** What every destination took before it could be said; frozen here as it was then. */
const firstWordRules = {
  countedIn: 'characters',
  mostTitle: 100,
  mostDescription: 5000,
  mostTags: null,
  mostTagLength: null,
  audiences: ['public', 'unlisted', 'followers', 'practice'],
  thumbnail: { ratioWidth: 16, ratioHeight: 9, leastWidth: 640, mostBytes: 2_000_000 },
}
const firstShowWords = {
  description: '',
  category: '',
  tags: [],
  language: '',
  audience: 'public',
  thumbnail: null,
}
const firstHandOff = { mirrorsPicture: false, isMirroredBack: false, sound: 'our live mix' }
const firstPath = { roundTripMilliseconds: null, lossPercent: null }
const firstOwnWords = {
  title: null,
  description: null,
  category: null,
  tags: null,
  language: null,
  audience: null,
  thumbnail: null,
  scheduledAt: null,
}
const firstLocalNetwork = { linkKbps: 1_000_000, devices: [] }

export async function up(database: Knex): Promise<void> {
  await addLines(database)
  await addSound(database)
  await widenDestinations(database)
  await addProfilesKeysAndAccounts(database)
}

/** The one line of a show becomes the first of several. */
async function addLines(database: Knex): Promise<void> {
  await database.schema.createTable('lines', (table) => {
    table.charset('utf8mb4')
    table.collate('utf8mb4_bin')
    table.string('show_id', identifierLength).notNullable()
    table.string('id', identifierLength).notNullable()
    table.integer('position').unsigned().notNullable()
    table.string('name', textLength).notNullable()
    table.double('low_percentile').notNullable()
    table.string('medium', 20).nullable()
    table.double('headroom_percent').notNullable()
    table.json('data_cap').nullable()
    table.json('local_network').notNullable()
    table.primary(['show_id', 'id'])
    table.foreign('show_id').references('shows.id').onDelete('CASCADE')
  })
  await database.raw(
    `INSERT INTO \`lines\` (show_id, id, position, name, low_percentile, headroom_percent, local_network)
     SELECT id, 'line', 0, line_name, 10, headroom_percent, ? FROM shows`,
    [JSON.stringify(firstLocalNetwork)],
  )
  await database.schema.alterTable('shows', (table) => {
    table.string('line_id', identifierLength).notNullable().defaultTo('line')
    table.dropColumn('line_name')
    table.dropColumn('headroom_percent')
  })
  for (const table of ['line_samples', 'other_traffic'])
    await database.raw(
      `ALTER TABLE ${table}
         ADD COLUMN line_id VARCHAR(${identifierLength}) NOT NULL DEFAULT 'line',
         DROP PRIMARY KEY,
         ADD PRIMARY KEY (show_id, line_id, id),
         ADD FOREIGN KEY (show_id, line_id) REFERENCES \`lines\` (show_id, id) ON DELETE CASCADE`,
    )
  await database.schema.alterTable('line_samples', (table) => {
    table.bigInteger('retransmits').unsigned().nullable()
  })
}

async function addSound(database: Knex): Promise<void> {
  await database.schema.createTable('sounds', (table) => {
    table.charset('utf8mb4')
    table.collate('utf8mb4_bin')
    table.string('show_id', identifierLength).notNullable()
    table.string('id', identifierLength).notNullable()
    table.integer('position').unsigned().notNullable()
    table.string('name', textLength).notNullable()
    table.string('kind', 20).notNullable()
    // No foreign key: sources and sounds of one save may come in any order. The document is checked.
    table.string('source_id', identifierLength).nullable()
    table.string('input', textLength).notNullable()
    table.double('level_decibels').notNullable()
    table.boolean('muted').notNullable()
    table.integer('channels').unsigned().notNullable()
    table.integer('sample_rate_hz').unsigned().notNullable()
    table.boolean('noise_suppression').notNullable()
    table.integer('delay_milliseconds').unsigned().notNullable()
    table.boolean('in_live_mix').notNullable()
    table.boolean('in_archive_mix').notNullable()
    table.json('also_heard_in').notNullable()
    table.boolean('may_be_kept').notNullable()
    table.primary(['show_id', 'id'])
    table.foreign('show_id').references('shows.id').onDelete('CASCADE')
  })
  await database.schema.alterTable('shows', (table) => {
    table.integer('mix_sample_rate_hz').unsigned().notNullable().defaultTo(48_000)
    table.json('words').nullable()
  })
  await database('shows').update({ words: JSON.stringify(firstShowWords) })
  await database.schema.alterTable('renditions', (table) => {
    table.string('audio_codec', 20).notNullable().defaultTo('aac')
    table.integer('audio_channels').unsigned().notNullable().defaultTo(2)
  })
  // The codec followed from the protocol before.
  await database.raw(
    `UPDATE renditions JOIN destinations
       ON destinations.show_id = renditions.show_id AND destinations.id = renditions.destination_id
     SET audio_codec = 'opus' WHERE destinations.protocol = 'whip'`,
  )
}

async function widenDestinations(database: Knex): Promise<void> {
  await database.schema.alterTable('destinations', (table) => {
    table.json('profile').nullable()
    table.string('server_address', addressLength).notNullable().defaultTo('')
    table.string('backup_address', addressLength).nullable()
    table.string('stream_name', 100).notNullable().defaultTo('')
    table.json('account').nullable()
    table.string('relay_id', identifierLength).nullable()
    for (const column of ['hand_off', 'path', 'words']) table.json(column).nullable()
    table.string('chat_address', addressLength).notNullable().defaultTo('')
    table.string('chat_read_by', textLength).notNullable().defaultTo('')
  })
  await database('destinations').update({
    hand_off: JSON.stringify(firstHandOff),
    path: JSON.stringify(firstPath),
    words: JSON.stringify(firstOwnWords),
  })
  await database.raw(
    `UPDATE destinations SET rules = JSON_SET(rules,
       '$.audioCodecs', JSON_ARRAY('aac', 'opus'),
       '$.mostAudioChannels', 2,
       '$.end', CASE JSON_VALUE(rules, '$.start')
         WHEN 'live when it arrives' THEN 'when the signal stops'
         ELSE JSON_VALUE(rules, '$.start') END,
       '$.key', JSON_OBJECT('life', 'lasting', 'hours', NULL),
       '$.chat', 'readable elsewhere',
       '$.offersBackup', FALSE,
       '$.mostFed', 0,
       '$.words', JSON_EXTRACT(?, '$'))`,
    [JSON.stringify(firstWordRules)],
  )
}

async function addProfilesKeysAndAccounts(database: Knex): Promise<void> {
  await database.schema.createTable('profiles', (table) => {
    table.charset('utf8mb4')
    table.collate('utf8mb4_bin')
    table.string('id', identifierLength).primary()
    table.integer('revision').unsigned().notNullable()
    table.json('profile').notNullable()
  })
  await database.schema.createTable('stream_keys', (table) => {
    table.charset('utf8mb4')
    table.collate('utf8mb4_bin')
    table.string('show_id', identifierLength).notNullable()
    // No foreign key: a destination that is removed can be brought back by undo, with its key.
    table.string('destination_id', identifierLength).notNullable()
    table.text('sealed').notNullable()
    // Keyed, so that two keys can be compared without opening either.
    table.string('fingerprint', 64).notNullable()
    table.string('previous_fingerprint', 64).nullable()
    table.datetime('stored_at', { precision: 3 }).notNullable()
    table.datetime('forgotten_at', { precision: 3 }).nullable()
    table.primary(['show_id', 'destination_id'])
    table.foreign('show_id').references('shows.id').onDelete('CASCADE')
  })
  await database.schema.createTable('linked_accounts', (table) => {
    table.charset('utf8mb4')
    table.collate('utf8mb4_bin')
    table.string('id', identifierLength).primary()
    table.string('service', identifierLength).notNullable()
    table.string('name', textLength).notNullable()
    // Access and refresh token, sealed together.
    table.text('sealed_tokens').notNullable()
    table.datetime('linked_at', { precision: 3 }).notNullable()
    table.datetime('access_ends_at', { precision: 3 }).notNullable()
  })
}

export async function down(database: Knex): Promise<void> {
  for (const table of ['linked_accounts', 'stream_keys', 'profiles', 'sounds'])
    await database.schema.dropTableIfExists(table)
  await database.schema.alterTable('destinations', (table) => {
    for (const column of ['profile', 'server_address', 'backup_address', 'stream_name', 'account'])
      table.dropColumn(column)
    for (const column of ['relay_id', 'hand_off', 'path', 'words', 'chat_address', 'chat_read_by'])
      table.dropColumn(column)
  })
  await database.raw(
    `UPDATE destinations SET rules = JSON_REMOVE(rules, '$.audioCodecs', '$.mostAudioChannels',
       '$.end', '$.key', '$.chat', '$.offersBackup', '$.mostFed', '$.words')`,
  )
  await database.schema.alterTable('renditions', (table) => {
    table.dropColumn('audio_codec')
    table.dropColumn('audio_channels')
  })
  await database.schema.alterTable('shows', (table) => {
    table.string('line_name', textLength).notNullable().defaultTo('')
    table.double('headroom_percent').notNullable().defaultTo(30)
  })
  await database.raw(
    `UPDATE shows JOIN \`lines\` ON \`lines\`.show_id = shows.id AND \`lines\`.id = shows.line_id
     SET shows.line_name = \`lines\`.name, shows.headroom_percent = \`lines\`.headroom_percent`,
  )
  // Only the line in use is one that the older tables can hold.
  for (const table of ['line_samples', 'other_traffic']) {
    await database.raw(
      `DELETE ${table} FROM ${table} JOIN shows ON shows.id = ${table}.show_id
       WHERE ${table}.line_id <> shows.line_id`,
    )
    const [keys] = await database.raw(
      `SELECT constraint_name AS name FROM information_schema.referential_constraints
       WHERE constraint_schema = DATABASE() AND table_name = ? AND referenced_table_name = 'lines'`,
      [table],
    )
    for (const { name } of keys as { name: string }[])
      await database.raw('ALTER TABLE ?? DROP FOREIGN KEY ??', [table, name])
    await database.raw(
      `ALTER TABLE ${table} DROP PRIMARY KEY, ADD PRIMARY KEY (show_id, id), DROP COLUMN line_id`,
    )
  }
  await database.schema.alterTable('line_samples', (table) => table.dropColumn('retransmits'))
  await database.schema.alterTable('shows', (table) => {
    for (const column of ['line_id', 'mix_sample_rate_hz', 'words']) table.dropColumn(column)
  })
  await database.schema.dropTableIfExists('lines')
}
