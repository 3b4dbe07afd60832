import { stat } from 'node:fs/promises'
import { type Happening, senderName } from '@green-mantle/core/night'
import type { Knex } from 'knex'
import { nanoid } from 'nanoid'
import { appendNightEvents } from '../database/nights/nightStore'
import { takeAbandoned, type UnderWay } from '../database/nights/underWayStore'
import { isRunning } from '../files/workFolders'
import { recordingSeconds } from './recordingLength'

const oldestSeconds = 86_400

/** What a recording came to that nobody closed. */
async function recorded({ name, file }: UnderWay['recordings'][number]): Promise<Happening | null> {
  const found = await stat(file).catch(() => null)
  if (!found) return null
  const seconds = await recordingSeconds(file)
  return {
    ...{ kind: 'recorded', name, file, seconds, megabytes: found.size / 1e6 },
    startedAt: new Date(found.mtimeMs - (seconds ?? 0) * 1000).toISOString(),
  }
}

function interrupted({ sends, sending }: UnderWay): Happening {
  if (!sending)
    return {
      kind: 'noted',
      text: 'The server ended while it sent: every send and recording from here ended with it. Start the encoders again to go on.',
    }
  const destinationIds = [...new Set(sends.map(({ destinationId }) => destinationId))]
  return { kind: 'interrupted', ...sending, destinationIds }
}

/** Tells the logs of nights that were under way when their server was killed what had ended with it. */
export async function tellAbandoned(database: Knex): Promise<void> {
  for (const { showId, underWay, seenAt } of await takeAbandoned(database, isRunning)) {
    const recordings = await Promise.all(underWay.recordings.map(recorded))
    const agoSeconds = Math.min(oldestSeconds, Math.max(0, (Date.now() - seenAt.getTime()) / 1000))
    const happenings: Happening[] = [
      ...underWay.sends,
      ...recordings.filter((each) => each !== null),
      interrupted(underWay),
    ]
    await appendNightEvents(
      database,
      showId,
      happenings.map((happening) => ({ id: nanoid(21), who: senderName, agoSeconds, happening })),
    )
  }
}
