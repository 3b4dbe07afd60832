import type { Knex } from 'knex'

/** What shows were like before it could be said; frozen here as it was then. */
const firstFit = { marginPoints: 0.5, shapeMarginPoints: 2, newerCodecs: false }

export async function up(database: Knex): Promise<void> {
  // JSON_INSERT leaves what is there, so that it can be run again after any statement. Where a show planned by itself, its cells are those of its last plan.
  for (const table of ['destinations', 'recordings'])
    await database.raw(
      `UPDATE ?? SET plan = JSON_INSERT(plan, '$.planned', JSON_EXTRACT(
        (SELECT JSON_EXTRACT(fit, '$.automatic') FROM shows WHERE shows.id = show_id), '$'))`,
      [table],
    )
  await database('destinations').update({
    plan: database.raw(`JSON_INSERT(plan, '$.newerCodecs', JSON_EXTRACT('null', '$'))`),
  })
  for (const [name, value] of Object.entries(firstFit))
    await database('shows').update({
      fit: database.raw(`JSON_INSERT(fit, ?, JSON_EXTRACT(?, '$'))`, [
        `$.${name}`,
        JSON.stringify(value),
      ]),
    })
}

export async function down(database: Knex): Promise<void> {
  for (const table of ['destinations', 'recordings'])
    await database(table).update({
      plan: database.raw(`JSON_REMOVE(plan, '$.planned', '$.newerCodecs')`),
    })
  await database('shows').update({
    fit: database.raw(`JSON_REMOVE(fit, '$.marginPoints', '$.shapeMarginPoints', '$.newerCodecs')`),
  })
}
