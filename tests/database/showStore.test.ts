import { lineOf, newShow, type Show } from '@green-mantle/core/show'
import { planOf } from '@green-mantle/core/plan'
import { demoShow } from '@green-mantle/demo'
import { nanoid } from 'nanoid'
import { describe, expect, it, vi } from 'vitest'
import { connect } from '../../server/database/connection'
import { partTableNames } from '../../server/database/shows/rows'
import {
  deleteShow,
  isEmpty,
  purgeDeletedShows,
  readShow,
  restoreShow,
  saveShow,
} from '../../server/database/shows/showStore'
import { summaryVersion } from '../../server/database/shows/summary'
import { cursorFrom, listLines, listShows } from '../../server/database/shows/showList'
import { edited, showDatabase } from './showDatabase'

const { databaseUrl, database, stored, listed } = await showDatabase('shows')

describe('storing a show', () => {
  it('gives it back as it was, to the last digit', async () => {
    const show = edited((copy) => {
      copy.title = `It's "quoted"; DROP TABLE shows; -- 🌸`
      copy.scenes[0]!.layers[0]!.landscape.x = 0.1 + 0.2
      copy.scenes[0]!.layers[0]!.vertical.turnDegrees = -12.34
      lineOf(copy).samples[0]!.uploadKbps = 19_999.999
      lineOf(copy).samples[1]!.roundTripMilliseconds = null
      copy.sources[0]!.nativeFramesPerSecond = 29.97
    })
    const id = await stored(show)
    expect(await readShow(database, id)).toMatchObject({ id, revision: 1, show })
  })

  it('keeps shows with the same identifiers inside apart', async () => {
    const first = await stored()
    const second = await stored(edited((copy) => (copy.sources[0]!.name = 'Other camera')))
    expect((await readShow(database, first))?.show.sources[0]?.name).toBe('Bench camera')
    expect((await readShow(database, second))?.show.sources[0]?.name).toBe('Other camera')
    expect((await listed()).sort()).toEqual([first, second].sort())
  })

  it('keeps a plan: pins, priorities, devices, recordings and plans set aside', async () => {
    const show = edited((copy) => {
      copy.destinations[0]!.plan = {
        priority: 5,
        mustKeep: true,
        leftOut: false,
        planned: true,
        routePinned: false,
        newerCodecs: true,
      }
      copy.destinations[0]!.renditions[0]!.pins = ['size', 'codec']
      copy.recordings[0]!.plan.leftOut = true
      copy.computer.devices[0]!.sessions = 2
      copy.fit = {
        ...copy.fit,
        floorScore: 65,
        marginPoints: 1.5,
        shapeMarginPoints: 0,
        newerCodecs: true,
      }
      copy.keptPlans = [{ id: 'first', name: 'Before supper', parts: planOf(copy) }]
    })
    const id = await stored(show)
    expect((await readShow(database, id))?.show).toEqual(show)
    const without = edited((copy) => {
      copy.keptPlans = []
      copy.recordings = []
    }, show)
    await saveShow(database, id, 1, without)
    expect((await readShow(database, id))?.show).toEqual(without)
  })

  it('stores an empty show', async () => {
    const show = newShow(() => nanoid(), { startsAt: '2026-12-01T20:00', timeZone: 'UTC' })
    expect((await readShow(database, await stored(show)))?.show).toEqual(show)
  })

  it('holds the database’s own rules: no placement without its layer', async () => {
    const id = await stored()
    const [row] = await database('placements').where({ show_id: id }).limit(1)
    await expect(
      database('placements').insert({ ...row, layer_id: 'nobody' }),
    ).rejects.toMatchObject({ errno: 1452 })
    await expect(
      database('destinations').where({ show_id: id }).update({ rules: '{broken' }),
    ).rejects.toMatchObject({ errno: 4025 })
  })
})

describe('saving', () => {
  it.each<[string, (show: Show) => void]>([
    ['a moved placement', (show) => (show.scenes[0]!.layers[0]!.landscape.x = 5)],
    ['another order', (show) => show.scenes[0]!.layers.reverse()],
    [
      'a layer that moved to another scene',
      (show) => show.scenes[2]!.layers.push({ ...show.scenes[0]!.layers.shift()! }),
    ],
    ['a removed scene', (show) => show.scenes.splice(1, 1)],
    [
      'a removed source with its placements',
      (show) => {
        show.scenes.forEach((scene) => {
          scene.layers = scene.layers.filter(({ sourceId }) => sourceId !== 'caption')
        })
        show.sources = show.sources.filter(({ id }) => id !== 'caption')
      },
    ],
    ['a destination on the other canvas', (show) => (show.destinations[0]!.canvas = 'vertical')],
    ['a shorter ladder', (show) => show.destinations.at(-1)!.renditions.pop()],
    [
      'another title and line',
      (show) => {
        show.title = 'Later'
        lineOf(show).headroomPercent = 12.5
        lineOf(show).otherTraffic = []
      },
    ],
  ])('takes over %s', async (_name, change) => {
    const id = await stored()
    const next = edited(change)
    expect(await saveShow(database, id, 1, next)).toEqual({ outcome: 'saved', revision: 2 })
    expect(await readShow(database, id)).toMatchObject({ revision: 2, show: next })
  })

  it('writes nothing over a newer revision, and gives that one back', async () => {
    const id = await stored()
    const theirs = edited((show) => (show.title = 'Theirs'))
    const mine = edited((show) => (show.title = 'Mine'))
    await saveShow(database, id, 1, theirs)
    expect(await saveShow(database, id, 1, mine)).toMatchObject({
      outcome: 'changed since',
      current: { revision: 2, show: { title: 'Theirs' } },
    })
    expect((await readShow(database, id))?.show.title).toBe('Theirs')
  })

  it('lets exactly one of twenty writers at once through', async () => {
    const id = await stored()
    const results = await Promise.all(
      Array.from({ length: 20 }, (_, index) =>
        saveShow(
          database,
          id,
          1,
          edited((show) => (show.title = `Writer ${index}`)),
        ),
      ),
    )
    expect(results.filter(({ outcome }) => outcome === 'saved')).toHaveLength(1)
    expect((await readShow(database, id))?.revision).toBe(2)
  })

  it('leaves everything as it was where a part of it fails', async () => {
    const id = await stored()
    const broken = edited((show) => {
      show.title = 'Half saved'
      // More than the column holds; the schema would have refused it before.
      show.destinations[0]!.name = 'x'.repeat(300)
    })
    await expect(saveShow(database, id, 1, broken)).rejects.toThrow()
    expect(await readShow(database, id)).toMatchObject({ revision: 1, show: demoShow })
  })

  it('knows when there is no such show', async () => {
    expect(await saveShow(database, 'nobody', 1, demoShow)).toEqual({ outcome: 'not found' })
    expect(await readShow(database, 'nobody')).toBeUndefined()
  })
})

describe('deleting', () => {
  it('hides a show until it is restored', async () => {
    const id = await stored()
    expect(await deleteShow(database, id)).toBe(true)
    expect(await deleteShow(database, id)).toBe(false)
    expect(await readShow(database, id)).toBeUndefined()
    expect(await listed()).toEqual([])
    expect(await isEmpty(database)).toBe(false)
    expect(await restoreShow(database, id)).toBe(true)
    expect((await readShow(database, id))?.show).toEqual(demoShow)
  })

  it('is for good after thirty days, with every part', async () => {
    const id = await stored()
    await deleteShow(database, id)
    expect(await purgeDeletedShows(database)).toBe(0)
    const later = new Date(Date.now() + 31 * 24 * 60 * 60 * 1000)
    expect(await purgeDeletedShows(database, later)).toBe(1)
    for (const table of partTableNames)
      expect(await database(table).where({ show_id: id })).toEqual([])
  })
})

describe('two servers on one database', () => {
  it('save in turn what each of them changed, whatever they remember of the rows', async () => {
    const other = connect(databaseUrl)
    try {
      const id = await stored()
      const titled = (title: string, x: number): Show =>
        edited((show) => {
          show.title = title
          show.scenes[0]!.layers[0]!.landscape.x = x
          if (x % 2 === 0) show.sources[0]!.name = title
        })
      let revision = 1
      for (let round = 0; round < 6; round += 1) {
        const server = round % 3 === 1 ? other : database
        const show = titled(`Round ${round}`, round)
        const result = await saveShow(server, id, revision, show)
        expect(result).toEqual({ outcome: 'saved', revision: revision + 1 })
        revision += 1
        expect((await readShow(database, id))?.show).toEqual(show)
      }
    } finally {
      await other.destroy()
    }
  })

  it('forget what a transaction that failed would have written', async () => {
    const id = await stored()
    const tooLong = edited((show) => (show.scenes[0]!.name = 'x'.repeat(5000)))
    await expect(saveShow(database, id, 1, tooLong)).rejects.toThrow()
    const show = edited((copy) => (copy.title = 'After that'))
    expect(await saveShow(database, id, 1, show)).toMatchObject({ outcome: 'saved' })
    expect((await readShow(database, id))?.show).toEqual(show)
  })
})

describe('the list of shows', () => {
  it('is read from what every save kept, without the shows', async () => {
    const id = await stored()
    await saveShow(
      database,
      id,
      1,
      edited((show) => (show.title = 'Renamed')),
    )
    // Were it read, it would be spoilt.
    await database('canvases').where({ show_id: id }).delete()
    const { shows, spoilt } = await listShows(database, { limit: 60 })
    expect(spoilt).toEqual([])
    expect(shows).toMatchObject([{ id, revision: 2, title: 'Renamed' }])
    expect(shows[0]?.verdict.sentence).not.toBe('')
  })

  it('goes on where a page left off, whatever was edited at the same time', async () => {
    const ids: string[] = []
    for (let count = 0; count < 7; count += 1) ids.push(await stored())
    await database('shows').update({ updated_at: new Date('2026-01-01T00:00:00Z') })
    const seen: string[] = []
    for (let after: string | null = ''; after !== null;) {
      const page = await listShows(database, { limit: 3, after: cursorFrom(after) })
      seen.push(...page.shows.map(({ id }) => id))
      after = page.next
    }
    expect(seen.sort()).toEqual(ids.sort())
    expect(cursorFrom('1_"; DROP')).toBeNull()
  })

  it('names a show that is spoilt, and shows the others', async () => {
    const [good, bad] = [await stored(), await stored(edited((show) => (show.title = 'Spoilt')))]
    await database('canvases').where({ show_id: bad }).delete()
    await database('shows').update({ summary_version: 0 })
    const quiet = vi.spyOn(console, 'error').mockImplementation(() => {})
    const { shows, spoilt } = await listShows(database, { limit: 60 })
    quiet.mockRestore()
    expect(shows.map(({ id }) => id)).toEqual([good])
    expect(spoilt).toEqual([{ id: bad, title: 'Spoilt' }])
    // The other's summary is kept from now on, and its time is still that of its last edit.
    expect(await database('shows').where({ id: good }).first('summary_version')).toEqual({
      summary_version: summaryVersion,
    })
  })

  it('gives the lines of the shows that were edited last', async () => {
    const id = await stored()
    const lines = await listLines(database, 10)
    expect(lines.map(({ line }) => line)).toEqual(demoShow.lines)
    expect(lines[0]).toMatchObject({ showId: id, showTitle: demoShow.title })
  })
})
