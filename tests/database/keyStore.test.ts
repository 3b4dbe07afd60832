import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { writeSettingsSheet, writeShowFile } from '@green-mantle/core/formats'
import { demoProfiles, demoShow } from '@green-mantle/demo'
import type { Knex } from 'knex'
import { nanoid } from 'nanoid'
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest'
import {
  listAccounts,
  openTokens,
  removeAccount,
  saveAccount,
} from '../../server/database/accounts/accountStore'
import { connect, migrate } from '../../server/database/connection'
import {
  listKeys,
  openKey,
  purgeForgottenKeys,
  setForgotten,
  storeKey,
} from '../../server/database/keys/keyStore'
import {
  listProfiles,
  removeProfile,
  saveProfile,
} from '../../server/database/profiles/profileStore'
import {
  createShow,
  deleteShow,
  readShow,
  restoreShow,
} from '../../server/database/shows/showStore'
import { type InstallationKey, readKeyFile } from '../../server/secrets/keyFile'
import { ownDatabase } from './ownDatabase'

const databaseUrl = await ownDatabase('keys')
let database: Knex
let key: InstallationKey
let showId: string
const directory = mkdtempSync(join(tmpdir(), 'green-mantle-keys-'))
const known = 'live_9f2c_petal-opens-at-nine'

beforeAll(async () => {
  database = connect(databaseUrl)
  await migrate(databaseUrl)
  key = await readKeyFile(join(directory, 'installation.key'))
})
beforeEach(async () => {
  await database('shows').delete()
  await database('profiles').delete()
  showId = nanoid()
  await createShow(database, showId, demoShow)
})
afterAll(async () => {
  await database.destroy()
  rmSync(directory, { recursive: true, force: true })
})
const store = (destinationId: string, text = known, storedAt = new Date()) =>
  storeKey(database, key, { showId, destinationId, storedAt }, text)

/** Every row of every table, as text. */
async function everything(): Promise<string> {
  const [tables] = (await database.raw('SHOW TABLES')) as [Record<string, string>[]]
  const rows = await Promise.all(
    tables.map(async (row) => database(Object.values(row)[0] as string)),
  )
  return JSON.stringify(rows)
}

describe('the keys of a deleted show', () => {
  it('cannot be listed, opened or forgotten until it is brought back', async () => {
    await store('longmeadow')
    await deleteShow(database, showId)
    expect(await listKeys(database, key, showId)).toEqual([])
    expect(await openKey(database, key, showId, 'longmeadow')).toBeUndefined()
    expect(await setForgotten(database, showId, 'longmeadow', new Date())).toBe(false)
    await restoreShow(database, showId)
    expect(await openKey(database, key, showId, 'longmeadow')).toMatchObject({ text: known })
  })
})

describe('stream keys', () => {
  it('are kept, opened and listed, and stand nowhere in the clear', async () => {
    await store('longmeadow')
    expect(await openKey(database, key, showId, 'longmeadow')).toEqual({
      outcome: 'opened',
      text: known,
    })
    const rows = await everything()
    expect(rows).toContain('longmeadow')
    const { show } = (await readShow(database, showId))!
    const listed = JSON.stringify(await listKeys(database, key, showId))
    for (const text of [rows, listed, writeShowFile(show), writeSettingsSheet(show)])
      for (const clear of [known, Buffer.from(known).toString('base64'), known.slice(5, 20)])
        expect(text).not.toContain(clear)
  })

  it('that were altered by one byte are noticed, and told from another key file', async () => {
    await store('longmeadow')
    const { sealed } = (await database('stream_keys').first('sealed')) as { sealed: string }
    const at = sealed.length - 8
    const altered = sealed.slice(0, at) + (sealed[at] === 'x' ? 'y' : 'x') + sealed.slice(at + 1)
    await database('stream_keys').update({ sealed: altered })
    expect(await openKey(database, key, showId, 'longmeadow')).toEqual({ outcome: 'damaged' })
    expect((await listKeys(database, key, showId))[0]?.readable).toBe('damaged')
    await database('stream_keys').update({ sealed })
    const other = await readKeyFile(join(directory, 'other.key'))
    expect((await listKeys(database, other, showId))[0]?.readable).toBe('other key file')
    expect(await openKey(database, other, showId, 'longmeadow')).toEqual({
      outcome: 'other key file',
    })
  })

  it('after the key file was lost, can be pasted again one by one; the rest is as it was', async () => {
    await store('longmeadow')
    await store('flickerbrook', 'another')
    const fresh = await readKeyFile(join(directory, 'fresh.key'))
    await storeKey(database, fresh, { showId, destinationId: 'longmeadow' }, known)
    const listed = await listKeys(database, fresh, showId)
    expect(Object.fromEntries(listed.map((each) => [each.destinationId, each.readable]))).toEqual({
      longmeadow: 'yes',
      flickerbrook: 'other key file',
    })
    expect((await readShow(database, showId))?.show).toEqual(demoShow)
  })

  it('do not open in the place of another', async () => {
    await store('longmeadow')
    await database('stream_keys').update({ destination_id: 'flickerbrook' })
    expect(await openKey(database, key, showId, 'flickerbrook')).toEqual({ outcome: 'damaged' })
  })

  it('are known to be the same as another’s, or as the last one there', async () => {
    await store('longmeadow')
    await store('tallstory-wide')
    await store('flickerbrook', 'first session')
    const states = async () =>
      Object.fromEntries(
        (await listKeys(database, key, showId)).map((each) => [each.destinationId, each]),
      )
    expect((await states()).longmeadow?.sameAs).toEqual(['tallstory-wide'])
    expect((await states()).flickerbrook).toMatchObject({ sameAs: [], isAsBefore: false })
    await store('flickerbrook', 'first session')
    expect((await states()).flickerbrook?.isAsBefore).toBe(true)
    await store('flickerbrook', 'second session')
    expect((await states()).flickerbrook?.isAsBefore).toBe(false)
  })

  it('that are forgotten can be brought back for a while, then are gone', async () => {
    await store('longmeadow')
    expect(await setForgotten(database, showId, 'longmeadow', new Date())).toBe(true)
    expect(await listKeys(database, key, showId)).toEqual([])
    expect(await openKey(database, key, showId, 'longmeadow')).toBeUndefined()
    expect(await setForgotten(database, showId, 'longmeadow', null)).toBe(true)
    expect(await listKeys(database, key, showId)).toHaveLength(1)
    await setForgotten(database, showId, 'longmeadow', new Date('2026-01-01'))
    await store('nobody-any-more', known, new Date('2026-01-01'))
    await store('flickerbrook', known, new Date('2026-01-01'))
    await purgeForgottenKeys(database, new Date('2026-03-01'))
    expect((await listKeys(database, key, showId)).map((each) => each.destinationId)).toEqual([
      'flickerbrook',
    ])
    expect(await setForgotten(database, showId, 'longmeadow', null)).toBe(false)
  })
})

describe('destination profiles', () => {
  it('are kept by name, and only a newer revision takes the place of one', async () => {
    for (const profile of demoProfiles) expect(await saveProfile(database, profile)).toBe(true)
    const [first] = await listProfiles(database)
    expect(first?.name).toBe('Commonhall')
    expect(await saveProfile(database, first!)).toBe(false)
    expect(await saveProfile(database, { ...first!, revision: 2, note: 'Changed' })).toBe(true)
    expect(await saveProfile(database, { ...first!, revision: 1, note: 'Older' })).toBe(false)
    expect((await listProfiles(database))[0]).toMatchObject({ revision: 2, note: 'Changed' })
    expect(await removeProfile(database, first!.id)).toBe(true)
    expect(await removeProfile(database, first!.id)).toBe(false)
    expect(await listProfiles(database)).toHaveLength(demoProfiles.length - 1)
  })
})

describe('linked accounts', () => {
  const tokens = { access: 'access-in-the-clear', refresh: 'refresh-in-the-clear' }
  const account = { id: 'fernhollow', service: 'practice accounts', name: 'Fernhollow' }
  const accessEndsAt = new Date('2026-12-12T21:00:00Z')

  it('are kept with their tokens sealed, renewed in place, and removed', async () => {
    await saveAccount(database, key, account, { tokens, accessEndsAt })
    expect(await openTokens(database, key, 'fernhollow')).toMatchObject({ tokens, accessEndsAt })
    expect(await everything()).not.toContain('in-the-clear')
    expect(JSON.stringify(await listAccounts(database))).not.toContain('sealed')
    const renewed = { ...tokens, access: 'another' }
    await saveAccount(database, key, account, { tokens: renewed, accessEndsAt })
    expect((await openTokens(database, key, 'fernhollow'))?.tokens).toEqual(renewed)
    const other = await readKeyFile(join(directory, 'other.key'))
    expect(await openTokens(database, other, 'fernhollow')).toBeUndefined()
    await removeAccount(database, 'fernhollow')
    expect(await listAccounts(database)).toEqual([])
  })
})
