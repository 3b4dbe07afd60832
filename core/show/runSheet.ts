import { z } from 'zod'
import { identifierSchema, shortTextSchema } from './identifier'
import { limitedSchema } from './limits'
import { mostOf } from './mostOf'

export const maxOwnTasks = 200

export const taskKinds = ['check', 'act', 'confirm', 'watch', 'end'] as const
/** What a task asks of whoever does it. */
export type TaskKind = (typeof taskKinds)[number]

export const nightPhases = [
  'days before',
  'before',
  'going up',
  'on air',
  'coming down',
  'after',
] as const
/** The parts of a night, in their order. */
export type NightPhase = (typeof nightPhases)[number]

export const personSchema = z.strictObject({ id: identifierSchema, name: shortTextSchema.min(1) })
/** Somebody who does things on the night. */
export type Person = z.infer<typeof personSchema>

const weekSeconds = 604_800
/** Weeks before the start, for what has to be asked for; and a while after the longest show. */
export const taskTimeLimitsSeconds = { min: -8 * weekSeconds, max: 2 * weekSeconds } as const
/** Seconds from the start of the show, before it below zero. */
const taskTimeSchema = limitedSchema(taskTimeLimitsSeconds)

/** Names a task: made of what it is about, so that it is the same one when the sheet is made again. */
export const taskIdSchema = z.string().regex(/^[A-Za-z0-9_-]{1,80}$/)

export const ownTaskSchema = z.strictObject({
  id: taskIdSchema,
  title: shortTextSchema.min(1),
  kind: z.enum(taskKinds),
  phase: z.enum(nightPhases),
  atSeconds: taskTimeSchema,
  destinationId: identifierSchema.nullable(),
  personId: identifierSchema.nullable(),
})
/** A task that a person added. */
export type OwnTask = z.infer<typeof ownTaskSchema>

export const taskChangeSchema = z.strictObject({
  /** The task that was made from the show. */
  id: taskIdSchema,
  /** null leaves what was made. */
  title: shortTextSchema.min(1).nullable(),
  atSeconds: taskTimeSchema.nullable(),
  personId: identifierSchema.nullable(),
  leftOut: z.boolean(),
})
/** What a person did to a task that was made from the show. */
export type TaskChange = z.infer<typeof taskChangeSchema>

export const marginMinutesLimits = { min: 0, max: 240, default: 5 } as const

export const runSheetSchema = z.strictObject({
  people: z.array(personSchema).max(mostOf.people),
  /** Between the last thing that has to be done and the start. */
  marginMinutes: limitedSchema(marginMinutesLimits),
  changes: z.array(taskChangeSchema).max(500),
  ownTasks: z.array(ownTaskSchema).max(maxOwnTasks),
  /** The tasks as they were last looked through, so that what is new, gone or moved is told; null before. */
  seen: z
    .array(
      z.strictObject({
        id: taskIdSchema,
        title: z.string().max(500),
        atSeconds: taskTimeSchema,
      }),
    )
    .max(1000)
    .nullable(),
})
/** What people made of the order of the night; the order itself is made from the show. */
export type RunSheetSettings = z.infer<typeof runSheetSchema>

export const defaultRunSheet: RunSheetSettings = {
  people: [],
  marginMinutes: marginMinutesLimits.default,
  changes: [],
  ownTasks: [],
  seen: null,
}
