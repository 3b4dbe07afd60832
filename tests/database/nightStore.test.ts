import type { Happening, NewNightEvent, NightEvent } from '@green-mantle/core/night'
import { demoShow } from '@green-mantle/demo'
import { nanoid } from 'nanoid'
import { afterEach, describe, expect, it, vi } from 'vitest'
import { connect } from '../../server/database/connection'
import {
  appendNightEvents,
  lastNightSequence,
  maxNightEvents,
  readNightEvents,
} from '../../server/database/nights/nightStore'
import {
  makeNightLink,
  mayTendNight,
  takeNightLinksBack,
} from '../../server/database/nights/nightLinks'
import { readNightShow } from '../../server/database/nights/nightShowStore'
import { deleteShow, restoreShow, saveShow } from '../../server/database/shows/showStore'
import { NightWatch } from '../../server/night/nightWatch'
import { showDatabase } from './showDatabase'
import { mostMilliseconds } from '../tier'

const { databaseUrl, database, stored } = await showDatabase('night_store')

const happened = (happening: Happening, changes: Partial<NewNightEvent> = {}): NewNightEvent => ({
  ...{ id: nanoid(), who: 'Ines', agoSeconds: 0, happening },
  ...changes,
})
const ticked = (taskId: string): NewNightEvent =>
  happened({ kind: 'ticked', taskId, title: taskId, knowingly: false })
const titlesOf = (events: readonly NightEvent[]): string[] =>
  events.map(({ happening }) => (happening.kind === 'ticked' ? happening.taskId : happening.kind))

describe('an entry that cannot be read', () => {
  it('is left out and said in its place, and all others are there', async () => {
    const id = await stored()
    await appendNightEvents(database, id, [ticked('line'), ticked('disk'), ticked('power')])
    const quiet = vi.spyOn(console, 'error').mockImplementation(() => undefined)
    // As an earlier version kept it when the clock was set back.
    const impossible = {
      ...{ id: 'bad', who: 'sender', at: '2026-12-01T20:00:00.000Z' },
      happening: { kind: 'recorded', name: 'Archive', file: 'a.mkv', seconds: -3, megabytes: 1 },
    }
    await database('night_events')
      .where({ show_id: id, sequence: 2 })
      .update({ event: JSON.stringify(impossible) })
    const events = await readNightEvents(database, id)
    expect(titlesOf(events)).toEqual(['line', 'noted', 'power'])
    expect(events.map(({ sequence }) => sequence)).toEqual([1, 2, 3])
    expect(quiet).toHaveBeenCalledOnce()
    quiet.mockRestore()
    await appendNightEvents(database, id, [happened({ kind: 'new night' })])
    expect(await readNightEvents(database, id)).toHaveLength(4)
  })
})

describe('the show of an earlier night', () => {
  const newNight = () => happened({ kind: 'new night' })

  it('is kept as it stood when the next was begun, and goes with the show', async () => {
    const id = await stored()
    await appendNightEvents(database, id, [happened({ kind: 'begun' }), newNight()])
    await saveShow(database, id, 1, { ...demoShow, title: 'The next one' })
    await appendNightEvents(database, id, [newNight()])
    expect(await readNightShow(database, id, 2)).toEqual(demoShow)
    expect((await readNightShow(database, id, 3))?.title).toBe('The next one')
    // The entry that began a night put none away.
    expect(await readNightShow(database, id, 1)).toBeNull()
    await deleteShow(database, id)
    expect(await readNightShow(database, id, 2)).toBeNull()
    await restoreShow(database, id)
    expect(await readNightShow(database, id, 2)).toEqual(demoShow)
    await database('shows').where({ id }).delete()
    expect(await database('night_shows').where({ show_id: id })).toEqual([])
  })

  it('is kept of the last two dozen, also where many come at once, and once where it is sent again', async () => {
    const id = await stored()
    const many = Array.from({ length: 30 }, newNight)
    await appendNightEvents(database, id, many)
    await appendNightEvents(database, id, many)
    const kept = await database('night_shows').where({ show_id: id }).orderBy('sequence')
    expect(kept.map(({ sequence }: { sequence: number }) => sequence)).toEqual(
      Array.from({ length: 24 }, (_, index) => index + 7),
    )
  })
})

describe('the log of a night', () => {
  it('is kept in its order, what is sent again once, and what happened earlier at its time', async () => {
    const id = await stored()
    const begun = happened({ kind: 'begun' }, { agoSeconds: 90 })
    const now = new Date('2026-12-12T20:00:00Z')
    await appendNightEvents(database, id, [begun, ticked('line')], now)
    await appendNightEvents(database, id, [begun, ticked('disk'), begun], now)
    const events = await readNightEvents(database, id)
    expect(titlesOf(events)).toEqual(['begun', 'line', 'disk'])
    expect(events.map(({ sequence }) => sequence)).toEqual([1, 2, 3])
    expect(events[0]).toMatchObject({ at: '2026-12-12T19:58:30.000Z', who: 'Ines' })
    expect(titlesOf(await readNightEvents(database, id, 2))).toEqual(['disk'])
    expect(await lastNightSequence(database, id)).toBe(3)
  })

  it('numbers what eight windows keep at once without a gap, and loses none', async () => {
    const id = await stored()
    const windows = Array.from({ length: 8 }, (_, window) =>
      Array.from({ length: 12 }, (__, index) => ticked(`w${window}-${index}`)),
    )
    const others = connect(databaseUrl)
    await Promise.all(
      windows.map(async (events, index) => {
        for (const event of events)
          await appendNightEvents(index % 2 ? database : others, id, [event])
      }),
    )
    await others.destroy()
    const events = await readNightEvents(database, id)
    expect(events.map(({ sequence }) => sequence)).toEqual(
      Array.from({ length: 96 }, (_, index) => index + 1),
    )
    for (const window of windows)
      expect(
        titlesOf(events).filter((title) =>
          title.startsWith(`${titlesOfNew(window)[0]?.split('-')[0]}-`),
        ),
      ).toEqual(titlesOfNew(window))
  })
  const titlesOfNew = (events: readonly NewNightEvent[]): string[] =>
    events.map(({ happening }) => (happening.kind === 'ticked' ? happening.taskId : ''))

  it('is nobody’s where there is no such show, waits for a deleted one, and takes no more than a night', async () => {
    expect(await appendNightEvents(database, 'nowhere', [ticked('line')])).toEqual({
      outcome: 'no show',
    })
    expect(await lastNightSequence(database, 'nowhere')).toBeUndefined()
    const id = await stored()
    await appendNightEvents(database, id, [ticked('line')])
    await deleteShow(database, id)
    expect(await appendNightEvents(database, id, [ticked('disk')])).toEqual({ outcome: 'no show' })
    expect(await lastNightSequence(database, id)).toBeUndefined()
    await restoreShow(database, id)
    expect(titlesOf(await readNightEvents(database, id))).toEqual(['line'])
    await database('night_logs').where({ show_id: id }).update({ last_sequence: maxNightEvents })
    expect(await appendNightEvents(database, id, [ticked('disk')])).toEqual({ outcome: 'full' })
  })

  it('goes with its show', async () => {
    const id = await stored()
    await appendNightEvents(database, id, [ticked('line')])
    await database('shows').where({ id }).delete()
    expect(await database('night_events').where({ show_id: id })).toEqual([])
  })
})

describe('watching a night', () => {
  const watches: NightWatch[] = []
  afterEach(() => {
    for (const watch of watches.splice(0)) watch.close()
  })
  function watch(on = database): NightWatch {
    const made = new NightWatch(() => Promise.resolve(on))
    watches.push(made)
    return made
  }
  function watcher(sequence = 0) {
    const had: string[] = []
    return {
      had,
      sequence,
      ended: 0,
      take(events: readonly NightEvent[]) {
        had.push(...titlesOf(events))
        return true
      },
      end() {
        this.ended += 1
      },
    }
  }

  it('shows what another server kept within a second, in every window, and catches up', async () => {
    const id = await stored()
    await appendNightEvents(database, id, [ticked('line'), ticked('disk')])
    const [here, elsewhere] = [watch(), watch()]
    const [first, behind] = [watcher(2), watcher(1)]
    here.watch(id, first)
    elsewhere.watch(id, behind)
    await vi.waitFor(() => expect(behind.had).toEqual(['disk']))
    const from = Date.now()
    await appendNightEvents(database, id, [ticked('power')])
    await vi.waitFor(() => expect([first.had, behind.had]).toEqual([['power'], ['disk', 'power']]))
    expect(Date.now() - from).toBeLessThan(mostMilliseconds(1000))
  })

  it('lets go of who has no right any more, and of nobody else', async () => {
    const id = await stored()
    const token = (await makeNightLink(database, id))!.token
    const [night, own, phone] = [watch(), watcher(), watcher()]
    night.watch(id, own)
    night.watch(id, { ...phone, mayStay: () => mayTendNight(database, id, token) })
    await appendNightEvents(database, id, [ticked('line')])
    await vi.waitFor(() => expect([own.had, phone.had]).toEqual([['line'], ['line']]))
    // As another process takes it back.
    await takeNightLinksBack(database, id)
    await vi.waitFor(() => expect(night.count).toBe(1), { timeout: 60_000 })
    expect(own.ended).toBe(0)
  })

  it('gives no entry twice however often it is nudged', async () => {
    const id = await stored()
    const [night, one] = [watch(), watcher()]
    night.watch(id, one)
    for (let index = 0; index < 20; index += 1) {
      await appendNightEvents(database, id, [ticked(`t${index}`)])
      night.nudge()
    }
    await vi.waitFor(() => expect(one.had).toHaveLength(20))
    expect(new Set(one.had).size).toBe(20)
  })

  it('ends with the show, and looks no longer when nobody does', async () => {
    const id = await stored(demoShow)
    const [night, one] = [watch(), watcher()]
    const end = night.watch(id, one)
    expect(night.count).toBe(1)
    await deleteShow(database, id)
    await vi.waitFor(() => expect(one.ended).toBe(1))
    end?.()
    expect(night.count).toBe(0)
  })

  it('goes on after the database was away, and takes no more than so many windows', async () => {
    const id = await stored()
    await appendNightEvents(database, id, [ticked('line')])
    let isAway = true
    const night = new NightWatch(() =>
      isAway ? Promise.reject(new Error('away')) : Promise.resolve(database),
    )
    watches.push(night)
    const quiet = vi.spyOn(console, 'warn').mockImplementation(() => undefined)
    const one = watcher()
    night.watch(id, one)
    await vi.waitFor(() => expect(quiet).toHaveBeenCalled())
    isAway = false
    await vi.waitFor(() => expect(one.had).toEqual(['line']), 3000)
    quiet.mockRestore()
    const ends = Array.from({ length: 250 }, () => night.watch(id, watcher(9)))
    expect(ends.filter((end) => end === null)).toHaveLength(51)
  })
})
