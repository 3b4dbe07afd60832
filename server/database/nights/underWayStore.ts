import { hostname } from 'node:os'
import { sendingFromHereSchema, sentSchema } from '@green-mantle/core/night'
import type { Knex } from 'knex'
import { z } from 'zod'

const underWaySchema = z.strictObject({
  /** What each send had come to. */
  sends: z.array(sentSchema),
  recordings: z.array(z.strictObject({ name: z.string(), file: z.string().max(1000) })),
  /** How it is carried out; what earlier versions left does not say. */
  sending: sendingFromHereSchema.optional(),
})
/** What a sender has under way. */
export type UnderWay = z.infer<typeof underWaySchema>

interface UnderWayRow {
  show_id: string
  machine: string
  process_id: number
  under_way: string
  seen_at: Date
}

/** Whoever looks after a night says so far more often. */
const forgottenMilliseconds = 60_000

/** Keeps what is under way now, in place of what was. */
export const keepUnderWay = async (
  database: Knex,
  showId: string,
  underWay: UnderWay,
): Promise<void> => {
  const row = {
    ...{ show_id: showId, machine: hostname(), process_id: process.pid },
    ...{ under_way: JSON.stringify(underWay), seen_at: new Date() },
  }
  await database<UnderWayRow>('night_under_way').insert(row).onConflict('show_id').merge()
}

/** Nothing is under way any more. */
export const forgetUnderWay = async (database: Knex, showId: string): Promise<void> => {
  await database<UnderWayRow>('night_under_way').where({ show_id: showId }).delete()
}

/**
 * Takes what nobody looks after any more, each for one who asks alone: that of a process of this machine
 * that is gone, or of any that has not been heard of for a minute.
 */
export async function takeAbandoned(
  database: Knex,
  isRunning: (processId: number) => boolean,
): Promise<{ showId: string; underWay: UnderWay; seenAt: Date }[]> {
  const taken: { showId: string; underWay: UnderWay; seenAt: Date }[] = []
  for (const row of await database<UnderWayRow>('night_under_way')) {
    const seenAt = new Date(row.seen_at)
    const isOwn = row.machine === hostname()
    const isGone = isOwn
      ? row.process_id !== process.pid && !isRunning(row.process_id)
      : Date.now() - seenAt.getTime() > forgottenMilliseconds
    if (!isGone) continue
    const { show_id, machine, process_id } = row
    const own = database<UnderWayRow>('night_under_way').where({ show_id, machine, process_id })
    if ((await own.delete()) === 0) continue
    const read = underWaySchema.safeParse(JSON.parse(row.under_way))
    if (read.success) taken.push({ showId: show_id, underWay: read.data, seenAt })
  }
  return taken
}
