import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { demoProfiles, demoShow } from '@green-mantle/demo'
import type { Knex } from 'knex'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { connect, migrate } from '../../server/database/connection'
import { listKeys, storeKey } from '../../server/database/keys/keyStore'
import { listProfiles, saveProfile } from '../../server/database/profiles/profileStore'
import { createShow, saveShow } from '../../server/database/shows/showStore'
import { inTurn } from '../../server/database/shows/turns'
import { inTransaction } from '../../server/database/transactions'
import { type InstallationKey, readKeyFile } from '../../server/secrets/keyFile'
import { ownDatabase } from './ownDatabase'

const databaseUrl = await ownDatabase('at_once')
const directory = mkdtempSync(join(tmpdir(), 'green-mantle-at-once-'))
let database: Knex
let key: InstallationKey
beforeAll(async () => {
  key = await readKeyFile(join(directory, 'installation.key'))
  database = connect(databaseUrl)
  await migrate(databaseUrl)
})
afterAll(async () => {
  await database.destroy()
  rmSync(directory, { recursive: true, force: true })
})

const upTo = (count: number): number[] => Array.from({ length: count }, (_, index) => index)

describe('many at once', () => {
  it('tell who saved last here that another process has saved since, and overwrite nothing of it', async () => {
    await createShow(database, 'two processes', demoShow)
    const mine = { ...demoShow, title: 'Mine' }
    expect(await saveShow(database, 'two processes', 1, mine)).toMatchObject({ revision: 2 })
    // What another process does is in the database alone.
    const row = () => database('shows').where({ id: 'two processes' })
    await row().update({ revision: 3, title: 'Theirs' })
    const saved = await saveShow(database, 'two processes', 2, { ...mine, title: 'Mine again' })
    expect(saved.outcome).toBe('changed since')
    expect(await row().first('revision', 'title')).toEqual({ revision: 3, title: 'Theirs' })
  })

  it('store the first keys of one show, all of them', async () => {
    await createShow(database, 'keyed', demoShow)
    for (const round of upTo(10))
      await Promise.all(
        upTo(8).map((place) =>
          storeKey(
            database,
            key,
            { showId: 'keyed', destinationId: `place-${round}-${place}` },
            `key ${place}`,
          ),
        ),
      )
    expect(await listKeys(database, key, 'keyed')).toHaveLength(80)
  })

  it('store sixty profiles, and of one the newest revision', async () => {
    const [profile] = demoProfiles
    await Promise.all(
      upTo(60).map((index) => saveProfile(database, { ...profile!, id: `profile-${index}` })),
    )
    await Promise.all(
      upTo(20).map((revision) =>
        saveProfile(database, { ...profile!, id: 'contended', revision: revision + 1 }),
      ),
    )
    const kept = await listProfiles(database)
    expect(kept).toHaveLength(61)
    expect(kept.find(({ id }) => id === 'contended')?.revision).toBe(20)
  })

  it('save one show without holding up another', async () => {
    await createShow(database, 'busy', demoShow)
    await createShow(database, 'quiet', demoShow)
    const order: string[] = []
    const busy = upTo(200).map(() => saveShow(database, 'busy', 1, { ...demoShow, title: 'Busy' }))
    void Promise.all(busy).then(() => order.push('busy'))
    const { outcome } = await saveShow(database, 'quiet', 1, { ...demoShow, title: 'Quiet' })
    order.push('quiet')
    expect(outcome).toBe('saved')
    expect((await Promise.all(busy)).filter((each) => each.outcome === 'saved')).toHaveLength(1)
    expect(order[0]).toBe('quiet')
  })
})

describe('a transaction that the database gives up', () => {
  it('is run again, and thrown where that goes on', async () => {
    const deadlock = Object.assign(new Error('Deadlock found'), { errno: 1213 })
    let tries = 0
    const twice = () => {
      tries += 1
      return tries < 3 ? Promise.reject(deadlock) : Promise.resolve('done')
    }
    expect(await inTransaction(database, twice)).toBe('done')
    await expect(inTransaction(database, () => Promise.reject(deadlock))).rejects.toBe(deadlock)
  })
})

describe('turns', () => {
  it('are taken in order, and one that fails holds up nobody', async () => {
    const done: number[] = []
    const works = upTo(5).map((index) =>
      inTurn('one', async () => {
        await new Promise((resolve) => setTimeout(resolve, 5 - index))
        done.push(index)
        if (index === 2) throw new Error('failed')
      }).catch(() => undefined),
    )
    await Promise.all(works)
    expect(done).toEqual([0, 1, 2, 3, 4])
  })
})
