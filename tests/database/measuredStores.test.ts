import { demoComputers, demoShow } from '@green-mantle/demo'
import type { Computer } from '@green-mantle/core/show'
import type { TrialResult } from '@green-mantle/core/trial'
import type { Knex } from 'knex'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { keepOwnComputer, readOwnComputer } from '../../server/database/computer/computerStore'
import { connect, migrate } from '../../server/database/connection'
import { createShow } from '../../server/database/shows/showStore'
import { keepTrial, readTrial } from '../../server/database/trials/trialStore'
import {
  keepPicture,
  listPictures,
  removePicture,
} from '../../server/database/pictures/pictureStore'
import { measuredPicture } from './measuredPicture'
import { ownDatabase } from './ownDatabase'

const databaseUrl = await ownDatabase('measured')
let database: Knex
beforeAll(async () => {
  database = connect(databaseUrl)
  await migrate(databaseUrl)
})
afterAll(() => database.destroy())

describe('the installation’s own computer', () => {
  it('has one identifier, whoever asks first, and is not known until it was measured', async () => {
    const asked = await Promise.all(Array.from({ length: 8 }, () => readOwnComputer(database)))
    expect(new Set(asked.map(({ installation }) => installation)).size).toBe(1)
    expect(asked[0]!.computer).toBeNull()
  })

  it('comes back as it was kept, the last one', async () => {
    const [first, second] = demoComputers as [Computer, Computer]
    await keepOwnComputer(database, first)
    await keepOwnComputer(database, second)
    expect((await readOwnComputer(database)).computer).toEqual(second)
  })
})

describe('the last trial of a show', () => {
  const result: TrialResult = {
    at: '2026-11-26T06:00:00.000Z',
    installation: 'this',
    seconds: 30,
    planKey: '0011',
    input: 'test picture',
    line: null,
    ownHost: null,
    processes: [],
    sends: [],
    recordings: [{ name: 'Archive', megabytes: 3, plannedMegabytes: 3.1 }],
  }

  it('is kept in place of the one before, and goes with its show', async () => {
    await createShow(database, 'tried', demoShow)
    expect(await readTrial(database, 'tried')).toBeNull()
    await keepTrial(database, 'tried', result)
    await keepTrial(database, 'tried', { ...result, seconds: 60 })
    expect((await readTrial(database, 'tried'))?.seconds).toBe(60)
    await database('shows').where({ id: 'tried' }).delete()
    expect(await readTrial(database, 'tried')).toBeNull()
  })

  it('of a show that is not there is not kept', async () => {
    await expect(keepTrial(database, 'nowhere', result)).rejects.toThrow()
  })
})

describe('pictures that were measured here', () => {
  it('are listed newest first, kept fifty at most, and go when they are removed', async () => {
    const at = (second: number): string =>
      new Date(Date.UTC(2026, 10, 26, 12, 0, second)).toISOString()
    for (let second = 0; second < 53; second += 1)
      await keepPicture(database, { ...measuredPicture, measuredAt: at(second) })
    const kept = await listPictures(database)
    expect(kept).toHaveLength(50)
    expect(kept[0]!.picture).toEqual({ ...measuredPicture, measuredAt: at(52) })
    expect(await removePicture(database, kept[0]!.id)).toBe(true)
    expect(await removePicture(database, kept[0]!.id)).toBe(false)
    expect((await listPictures(database))[0]!.picture.measuredAt).toBe(at(51))
  })

  it('that can no longer be read are left out of the list', async () => {
    await database('own_pictures').insert({ id: 'odd', measured_at: '9', picture: '{"name":1}' })
    expect((await listPictures(database)).every(({ id }) => id !== 'odd')).toBe(true)
  })
})
