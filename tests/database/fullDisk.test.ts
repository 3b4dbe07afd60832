import { spawnSync } from 'node:child_process'
import { closeSync, mkdirSync, mkdtempSync, openSync, rmSync, writeSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { demoShow } from '@green-mantle/demo'
import type { Knex } from 'knex'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { type PrivateMariadb, startPrivateMariadb } from '../../scripts/mariadb'
import { connect, migrate } from '../../server/database/connection'
import { findFile, newFileOf, storeFile } from '../../server/database/files/fileStore'
import { createShow, readShow, saveShow } from '../../server/database/shows/showStore'
import { problemFrom } from '../../server/http/problem'

/** A disk of its own that holds a new database and little more. */
const diskMegabytes = 500
const disk = mkdtempSync(join(tmpdir(), 'green-mantle-full-disk-'))
const program = (name: string, ...parts: string[]): boolean =>
  spawnSync(name, parts, { stdio: 'ignore' }).status === 0
const isMounted = program('mount', '-t', 'tmpfs', '-o', `size=${diskMegabytes}m`, 'tmpfs', disk)
afterAll(() => {
  if (isMounted) program('umount', disk)
  rmSync(disk, { recursive: true, force: true })
})

const filler = join(disk, 'filler')
/** Writes until there is no room at all. */
function fill(): void {
  const file = openSync(filler, 'w')
  try {
    for (let size = 1_000_000; size >= 1; size = Math.floor(size / 10)) writeUntilFull(file, size)
  } finally {
    closeSync(file)
  }
}
function writeUntilFull(file: number, size: number): void {
  const piece = Buffer.alloc(size)
  for (;;)
    try {
      if (writeSync(file, piece) < size) return
    } catch {
      return
    }
}

const picture = (megabytes: number, seed: number) =>
  newFileOf({
    ...{ mediaType: 'image/png', width: 1, height: 1 },
    bytes: Buffer.alloc(megabytes * 1_000_000, Buffer.from([seed, 5, 9, 77, 3])),
  })

describe.skipIf(!isMounted)('a disk that is full (needs root, to mount one of its own)', () => {
  let mariadb: PrivateMariadb
  let database: Knex
  beforeAll(async () => {
    mkdirSync(join(disk, 'database'))
    mariadb = await startPrivateMariadb({ directory: join(disk, 'database'), firstPort: 4360 })
    await migrate(mariadb.url)
    database = connect(mariadb.url)
    process.env.GREEN_MANTLE_DATABASE_FOLDER = mariadb.folder
  })
  afterAll(async () => {
    delete process.env.GREEN_MANTLE_DATABASE_FOLDER
    await database.destroy()
    await mariadb.stop()
  })

  it('refuses in words what has no room, keeps all that is there, and goes on when there is room again', async () => {
    await createShow(database, 'show', demoShow)
    const small = await storeFile(database, picture(1, 1))
    fill()

    // Left to itself the database ends here: it finds no room to take the statement back in.
    const refused = await storeFile(database, picture(60, 2)).then(
      () => null,
      (error: unknown) => problemFrom(error).details,
    )
    expect(refused).toMatchObject({ status: 507, title: 'The disk is full' })
    expect(await findFile(database, picture(60, 2).id)).toBeUndefined()
    expect(await findFile(database, small.id)).toEqual(small)

    // A save is either kept whole or refused the same way, never torn and never without an answer.
    const longer = { ...demoShow, title: 'Longer' }
    const saved = await saveShow(database, 'show', 1, longer).then(
      ({ outcome }) => outcome,
      (error: unknown) => problemFrom(error).details.status,
    )
    expect(['saved', 507]).toContain(saved)
    expect((await readShow(database, 'show'))?.show).toEqual(saved === 'saved' ? longer : demoShow)

    expect(mariadb.process.exitCode ?? mariadb.process.signalCode).toBeNull()
    rmSync(filler)
    const kept = await storeFile(database, picture(60, 2))
    expect(await findFile(database, kept.id)).toEqual(kept)
    const revision = (await readShow(database, 'show'))!.revision
    const again = await saveShow(database, 'show', revision, { ...demoShow, title: 'Room again' })
    expect(again).toMatchObject({ outcome: 'saved' })
  })

  it('changes no tables without room, and does it when there is some again', async () => {
    await database.raw('CREATE DATABASE green_mantle_older')
    const older = mariadb.urlOf('green_mantle_older')
    fill()
    const refused = await migrate(older).then(
      () => null,
      (error: unknown) => problemFrom(error).details,
    )
    expect(refused).toMatchObject({ status: 507, title: 'The disk is full' })
    expect(mariadb.process.exitCode ?? mariadb.process.signalCode).toBeNull()
    rmSync(filler)
    await migrate(older)
    const opened = connect(older)
    await createShow(opened, 'show', demoShow)
    expect((await readShow(opened, 'show'))?.show).toEqual(demoShow)
    await opened.destroy()
  })

  it('does not keep the database from ending, and what was committed is there when it starts again', async () => {
    fill()
    const before = (await readShow(database, 'show'))!
    const { port } = mariadb
    await mariadb.stop()
    expect(mariadb.process.exitCode ?? mariadb.process.signalCode).not.toBeNull()
    rmSync(filler)
    mariadb = await startPrivateMariadb({ directory: join(disk, 'database'), port })
    expect(await readShow(database, 'show')).toEqual(before)
  })
})
