import { z } from 'zod'
import { carriedSchema, encodedSchema, recordedSchema, sentSchema, type WrapUp } from '../night'
import type { Show } from '../show'

export const wrapUpFileFormat = 'green-mantle-wrap-up'
export const wrapUpFileVersion = 3

/** ISO 8601 in UTC, by the server's clock. */
const moment = z.iso.datetime()
const seconds = z.number()

const wrapUpFileShape = z.strictObject({
  $schema: z.string().optional(),
  format: z.literal(wrapUpFileFormat),
  version: z.literal(wrapUpFileVersion),
  show: z.strictObject({
    title: z.string(),
    /** Wall-clock time in `timeZone`. */
    startsAt: z.string(),
    timeZone: z.string(),
    durationMinutes: z.int(),
  }),
  wrapUp: z.strictObject({
    begunAt: moment.nullable(),
    onAirAt: moment.nullable(),
    endedAt: moment.nullable(),
    startLateSeconds: seconds.nullable(),
    ranLongSeconds: seconds.nullable(),
    sends: z.array(
      z.strictObject({
        destinationId: z.string(),
        name: z.string(),
        reachedAt: z.strictObject({
          sending: moment.nullable(),
          arrived: moment.nullable(),
          live: moment.nullable(),
          ended: moment.nullable(),
        }),
        liveLateSeconds: seconds.nullable(),
        liveSeconds: seconds.nullable(),
        troubles: z.array(z.strictObject({ at: moment, words: z.string() })),
        sent: z.array(sentSchema),
        viewed: z.strictObject({ freezes: z.int(), frozenSeconds: seconds }).nullable(),
        score: z.strictObject({ planned: z.number(), happened: z.number() }).nullable(),
        wasFrozen: z.boolean(),
      }),
    ),
    marks: z.array(
      z.strictObject({
        id: z.string(),
        name: z.string(),
        from: moment,
        until: moment,
        sceneId: z.string().nullable(),
        who: z.string(),
      }),
    ),
    line: z.array(carriedSchema),
    encoded: z.array(encodedSchema),
    recordings: z.array(recordedSchema),
    notDone: z.array(z.string()),
    outOfOrder: z.array(z.string()),
    toChange: z.array(z.string()),
  }),
})

/** The JSON Schema (2020-12) of a wrap-up. */
export function wrapUpFileJsonSchema(): object {
  return {
    ...z.toJSONSchema(wrapUpFileShape, { target: 'draft-2020-12' }),
    title: 'What a Green Mantle night came to',
  }
}

/** What was planned against what happened, as open JSON; no address and no key is in it. */
export function writeWrapUp(
  { title, startsAt, timeZone, durationMinutes }: Show,
  { marks, ...wrapUp }: WrapUp,
): string {
  const file: z.infer<typeof wrapUpFileShape> = {
    format: wrapUpFileFormat,
    version: wrapUpFileVersion,
    show: { title, startsAt, timeZone, durationMinutes },
    wrapUp: { ...wrapUp, marks: [...marks] },
  }
  return `${JSON.stringify(wrapUpFileShape.parse(file), null, 2)}\n`
}
