import type { UnderWay } from '../../server/database/nights/underWayStore'
import { describe, expect, it } from 'vitest'
import {
  forgetUnderWay,
  keepUnderWay,
  takeAbandoned,
} from '../../server/database/nights/underWayStore'
import { readNightEvents } from '../../server/database/nights/nightStore'
import { tellAbandoned } from '../../server/sender/tellAbandoned'
import { showDatabase } from './showDatabase'

const { database, stored } = await showDatabase('under_way')

const underWay: UnderWay = {
  sends: [
    {
      ...{ kind: 'sent', destinationId: 'meadow', name: 'Longmeadow', isBackup: false },
      ...{ seconds: 600, meanKbps: 4000, plannedKbps: 4100, sentFrames: 18_000, lostFrames: 0 },
      reconnects: 0,
    },
  ],
  recordings: [{ name: 'Archive', file: '/nowhere/archive.mkv' }],
  sending: {
    target: 'stand-ins',
    inputs: { landscape: 'on-air window', vertical: { fileId: 'a'.repeat(64) } },
  },
}
const nobodyRuns = (): boolean => false
/** As a process that is gone has left it. */
const leftBy = (processId: number, seenAt = new Date()) =>
  database('night_under_way').update({ process_id: processId, seen_at: seenAt })

describe('what a sender has under way', () => {
  it('is nobody’s while its process runs, and taken once when that is gone', async () => {
    const id = await stored()
    await keepUnderWay(database, id, underWay)
    await keepUnderWay(database, id, underWay)
    expect(await takeAbandoned(database, nobodyRuns)).toEqual([])
    await leftBy(4_000_000)
    expect(await takeAbandoned(database, () => true)).toEqual([])
    const both = await Promise.all([
      takeAbandoned(database, nobodyRuns),
      takeAbandoned(database, nobodyRuns),
    ])
    expect(both.flat()).toMatchObject([{ showId: id, underWay }])
    expect(await takeAbandoned(database, nobodyRuns)).toEqual([])
  })

  it('is nothing any more once it was ended in good order', async () => {
    const id = await stored()
    await keepUnderWay(database, id, underWay)
    await forgetUnderWay(database, id)
    expect(await database('night_under_way')).toEqual([])
  })

  it('is told to the log of the night by the next start', async () => {
    const id = await stored()
    await keepUnderWay(database, id, underWay)
    await leftBy(4_000_000, new Date(Date.now() - 90_000))
    await tellAbandoned(database)
    await tellAbandoned(database)
    const events = await readNightEvents(database, id)
    // Of a recording that is not there nothing is told.
    expect(events.map(({ happening }) => happening.kind)).toEqual(['sent', 'interrupted'])
    expect(events.every(({ who }) => who === 'sender')).toBe(true)
    expect(events[0]!.happening).toMatchObject({ name: 'Longmeadow', seconds: 600 })
    expect(Date.now() - Date.parse(events[0]!.at)).toBeGreaterThan(80_000)
    expect(events[1]!.happening).toEqual({
      ...{ kind: 'interrupted', ...underWay.sending, destinationIds: ['meadow'] },
    })
  })

  it('of a version that did not say how it was carried out is told all the same', async () => {
    const id = await stored()
    const { sending: _, ...earlier } = underWay
    await keepUnderWay(database, id, earlier)
    await leftBy(4_000_000)
    await tellAbandoned(database)
    const events = await readNightEvents(database, id)
    expect(events.map(({ happening }) => happening.kind)).toEqual(['sent', 'noted'])
  })
})
