import type { Knex } from 'knex'

/** How every sender behaved before it could be said, and a show that was never rehearsed; frozen here. */
const firstSending = {
  whenBehind: 'drop',
  mostWaitSeconds: 2.5,
  lowerAfterSeconds: 0.8,
  lowerToPercent: 70,
  raiseByPercent: 5,
  leastPercent: 40,
  reconnectAfterSeconds: 2,
  reconnectTries: 25,
}
const firstRehearsal = {
  seed: 1,
  incidents: [],
  clean: { lostPercent: 0.5, awaySeconds: 10, behindSeconds: 5 },
  wantedPercent: 95,
  headroomFollows: false,
  last: null,
}

export async function up(database: Knex): Promise<void> {
  await database.schema.alterTable('destinations', (table) => {
    table.json('sending').nullable()
  })
  await database('destinations').update({ sending: JSON.stringify(firstSending) })
  await database.schema.alterTable('shows', (table) => {
    table.json('rehearsal').nullable()
  })
  await database('shows').update({ rehearsal: JSON.stringify(firstRehearsal) })
}

export async function down(database: Knex): Promise<void> {
  await database.schema.alterTable('shows', (table) => table.dropColumns('rehearsal'))
  await database.schema.alterTable('destinations', (table) => table.dropColumns('sending'))
}
