import {
  lineOf,
  newComputer,
  defaultFitSettings,
  defaultRehearsal,
  defaultRunSheet,
  defaultSending,
  newConnectionDetails,
  newShowWords,
  newWordRules,
  type Show,
} from '@green-mantle/core/show'
import { demoShow } from '@green-mantle/demo'
import type { Knex } from 'knex'
import { nanoid } from 'nanoid'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { connect, migrate } from '../../server/database/connection'
import { migrationSource } from '../../server/database/migrations'
import { listShows } from '../../server/database/shows/showList'
import { createShow, isEmpty, readShow } from '../../server/database/shows/showStore'
import { measuredPicture } from './measuredPicture'
import { ownDatabase } from './ownDatabase'
import { edited as editedFrom } from './showDatabase'

// Made anew for each: one that fails halfway leaves tables that no other can begin with.
let databaseUrl: string
let database: Knex
beforeEach(async () => {
  databaseUrl = await ownDatabase('show_migrations')
  await migrate(databaseUrl)
  database = connect(databaseUrl)
})
afterEach(() => database.destroy())

/** The demo without what no older version could keep. */
const olderDemo = structuredClone(demoShow)
for (const scene of olderDemo.scenes) {
  delete scene.comesBy
  delete scene.withoutDevice
}
const edited = (change: (show: Show) => void): Show => editedFrom(change, olderDemo)

async function stored(show: Show = olderDemo): Promise<string> {
  const id = nanoid()
  await createShow(database, id, show)
  return id
}

describe('migrations', () => {
  it('run twice without harm, at once or one after the other', async () => {
    await Promise.all([migrate(databaseUrl), migrate(databaseUrl)])
    await migrate(databaseUrl)
    expect(await isEmpty(database)).toBe(true)
  })

  it('go back and forth', async () => {
    await database.migrate.rollback({ migrationSource }, true)
    expect(await database.schema.hasTable('shows')).toBe(false)
    await migrate(databaseUrl)
    expect((await listShows(database, { limit: 60 })).shows).toEqual([])
  })

  /** Takes migrations back up to the one whose name begins so, that one too. */
  async function backTo(name: string): Promise<void> {
    const done = await database('knex_migrations').pluck<string[]>('name')
    for (const each of done) if (each >= name) await database.migrate.down({ migrationSource })
  }

  it.each([
    [true, true],
    [false, false],
  ])(
    'with a show that planned by itself: %s, its cells are of a plan: %s',
    async (automatic, planned) => {
      const id = await stored(
        edited((show) => {
          show.fit.automatic = automatic
          show.fit.marginPoints = 2
        }),
      )
      await backTo('005')
      expect(JSON.stringify(await database('shows').where({ id }).first('fit'))).not.toMatch(
        /margin/,
      )
      await migrate(databaseUrl)
      const show = (await readShow(database, id))?.show
      expect(show?.fit).toEqual({ ...defaultFitSettings, automatic })
      for (const { plan } of [...show!.destinations, ...show!.recordings])
        expect(plan.planned).toBe(planned)
      expect(show?.destinations[0]?.plan.newerCodecs).toBeNull()
    },
  )

  /** Before the night had an order nobody had touched it, and pages were taken to lag as most do. */
  const withoutNight = (show: Show): void => {
    show.runSheet = defaultRunSheet
    for (const destination of show.destinations) destination.lagSeconds = 8
  }

  /** Before nights were simulated every sender dropped frames, and nothing was kept of a rehearsal. */
  const neverRehearsed = (show: Show): void => {
    withoutNight(show)
    show.rehearsal = defaultRehearsal
    for (const destination of show.destinations) destination.sending = defaultSending
  }

  it('bring a show from before pictures were measured up to date, and back', async () => {
    const id = await stored(
      edited((show) => {
        show.ownPicture = measuredPicture
        show.pictureKind = 'own'
      }),
    )
    expect((await readShow(database, id))?.show.ownPicture).toEqual(measuredPicture)
    await backTo('010')
    await migrate(databaseUrl)
    // What an older schema has no room for is gone, and the show is one that can be read.
    const show = (await readShow(database, id))?.show
    expect([show?.pictureKind, show?.ownPicture]).toEqual(['talking', null])
  })

  it('bring a show from before its night had an order up to date', async () => {
    const id = await stored()
    await backTo('009')
    expect(await database.schema.hasTable('night_events')).toBe(false)
    await migrate(databaseUrl)
    expect((await readShow(database, id))?.show).toEqual(edited(withoutNight))
  })

  it('bring a show from before computers were measured up to date, its computer as it was', async () => {
    const id = await stored()
    await backTo('008')
    expect(await database.schema.hasTable('trials')).toBe(false)
    await migrate(databaseUrl)
    expect((await readShow(database, id))?.show).toEqual(edited(withoutNight))
  })

  it('bring a show that was never rehearsed up to date', async () => {
    const id = await stored(
      edited((show) => {
        show.rehearsal.seed = 77
      }),
    )
    await backTo('007')
    expect(await database.schema.hasColumn('destinations', 'sending')).toBe(false)
    await migrate(databaseUrl)
    expect((await readShow(database, id))?.show).toEqual(edited(neverRehearsed))
  })

  const setByHand = (show: Show): void => {
    neverRehearsed(show)
    Object.assign(show, { recordings: [], computer: newComputer, keptPlans: [] })
    // Nothing looked ahead before it could be said.
    for (const { encoder } of show.destinations.flatMap(({ renditions }) => renditions))
      encoder.lookAheadFrames = 0
  }

  it('bring a show that was set by hand up to date, with nothing planned', async () => {
    const id = await stored()
    await backTo('004')
    expect(await database.schema.hasTable('recordings')).toBe(false)
    await migrate(databaseUrl)
    expect((await readShow(database, id))?.show).toEqual(edited(setByHand))
  })

  const withOneLine = (show: Show): void => {
    setByHand(show)
    show.lines = [{ ...lineOf(show), id: 'line', medium: null }]
    show.lines[0]!.localNetwork = { linkKbps: 1_000_000, devices: [] }
    show.lineId = 'line'
    show.sounds = []
    show.words = newShowWords
    for (const destination of show.destinations) {
      const { start } = destination.rules
      Object.assign(destination, { profile: null, ...newConnectionDetails() })
      Object.assign(destination.rules, {
        audioCodecs: ['aac', 'opus'],
        mostAudioChannels: 2,
        end: start === 'live when it arrives' ? 'when the signal stops' : start,
        key: { life: 'lasting', hours: null },
        chat: 'readable elsewhere',
        offersBackup: false,
        mostFed: 0,
        words: newWordRules,
      })
    }
  }

  it('bring a show that had one line up to date, line, samples and rules as they were', async () => {
    const id = await stored()
    await backTo('003')
    expect(await database.schema.hasTable('lines')).toBe(false)
    await migrate(databaseUrl)
    expect((await readShow(database, id))?.show).toEqual(edited(withOneLine))
  })

  it('bring a show that was stored before the canvas pair was widened up to date', async () => {
    const id = await stored()
    await backTo('002')
    // As words were kept then.
    await database('sources').where({ show_id: id, id: 'caption' }).update({
      appearance: '{"type":"text","text":"A flower that opens for one night","colour":"#fffdf6"}',
    })
    await migrate(databaseUrl)
    const expected = edited((show) => {
      withOneLine(show)
      for (const source of show.sources) {
        source.focus = null
        // 900 px for 33 characters of 0.52 em.
        if (source.appearance.type === 'text') source.appearance.sizePixels = 52
      }
      for (const scene of show.scenes) scene.role = null
      for (const destination of show.destinations) destination.coverZones = []
    })
    expect((await readShow(database, id))?.show).toEqual(expected)
  })

  it('compare identifiers and names byte by byte', async () => {
    const show = edited((copy) => {
      copy.scenes[0]!.id = 'scene'
      copy.scenes[1]!.id = 'SCENE'
      copy.title = 'Pétale'
    })
    expect((await readShow(database, await stored(show)))?.show).toEqual(show)
  })
})
