import { demoShow } from '@green-mantle/demo'
import type { Knex } from 'knex'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { connect, migrate } from '../../server/database/connection'
import { migrateUp } from '../../server/database/migrating'
import { migrations, migrationSource } from '../../server/database/migrations'
import { createShow, readShow } from '../../server/database/shows/showStore'
import { ownDatabase } from './ownDatabase'
import { casesOf } from '../tier'

const databaseUrl = await ownDatabase('migrating')

/** Every column and key there is, and what is noted as done. */
async function schemaOf(database: Knex): Promise<unknown> {
  const columns = await database.raw(
    `SELECT table_name, column_name, column_type, is_nullable, column_default, column_key
     FROM information_schema.columns WHERE table_schema = DATABASE() ORDER BY 1, 2`,
  )
  const keys = await database.raw(
    `SELECT table_name, referenced_table_name, COUNT(*) AS count
     FROM information_schema.referential_constraints
     WHERE constraint_schema = DATABASE() GROUP BY 1, 2 ORDER BY 1, 2`,
  )
  return [columns[0], keys[0], await database('knex_migrations').orderBy('name').pluck('name')]
}

class Killed extends Error {}

/** Runs the migrations and is cut off after each statement in turn, until nothing is left to do. */
async function upInPieces(): Promise<number> {
  const killed = new Set<string>()
  for (;;) {
    const migrator = connect(databaseUrl, 1)
    try {
      await migrateUp(migrator, {
        afterStatement: (migration, statement) => {
          const here = `${migration} ${statement}`
          if (killed.has(here)) return
          killed.add(here)
          throw new Killed()
        },
      })
      return killed.size
    } catch (error) {
      if (!(error instanceof Killed)) throw error
    } finally {
      // The lock goes with the connection.
      await migrator.destroy()
    }
  }
}

let database: Knex
beforeEach(async () => {
  await ownDatabase('migrating')
  database = connect(databaseUrl)
})
afterEach(() => database.destroy())

describe('a migration that is killed', () => {
  it('after any statement is gone on with by the next start', async () => {
    await migrate(databaseUrl)
    const whole = await schemaOf(database)
    await ownDatabase('migrating')
    expect(await upInPieces()).toBeGreaterThan(30)
    expect(await schemaOf(database)).toEqual(whole)
  })

  it.each(casesOf([1, 2, 3, 4, 5], (count) => count === 2))(
    'after any statement of the last %i keeps the shows',
    async (count) => {
      await migrate(databaseUrl)
      await createShow(database, 'kept', demoShow)
      const back = async () => {
        for (let step = 0; step < count; step += 1) await database.migrate.down({ migrationSource })
      }
      await back()
      await migrate(databaseUrl)
      const expected = await readShow(database, 'kept')
      await back()
      expect(await upInPieces()).toBeGreaterThanOrEqual(count)
      expect((await readShow(database, 'kept'))?.show).toEqual(expected?.show)
    },
  )

  it('by an older version, with its lock on the table, holds up nothing', async () => {
    await database.migrate.latest({ migrationSource })
    await database.migrate.down({ migrationSource })
    await database('knex_migrations_lock').update({ is_locked: 1 })
    await migrate(databaseUrl)
    expect(await database('knex_migrations').pluck('name')).toHaveLength(migrations.length)
  })

  it('is not begun on a database of a newer version', async () => {
    await migrate(databaseUrl)
    await database('knex_migrations').insert({ name: '999-from-the-future', batch: 1 })
    await expect(migrate(databaseUrl)).rejects.toThrow(/made by a newer version.*999/)
  })
})
