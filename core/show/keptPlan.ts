import { z } from 'zod'
import { identifierSchema, shortTextSchema } from './identifier'
import { renditionSchema } from './rendition'

const plannedPartSchema = z.strictObject({
  /** Of the destination or recording. */
  id: identifierSchema,
  leftOut: z.boolean(),
  /** null where it is sent to directly; always for a recording. */
  relayId: identifierSchema.nullable(),
  renditions: z.array(renditionSchema).min(1).max(3),
})

export const keptPlanSchema = z.strictObject({
  id: identifierSchema,
  name: shortTextSchema.min(1),
  parts: z.array(plannedPartSchema).max(70),
})
/** A plan set aside under a name, to be compared and chosen later. */
export type KeptPlan = z.infer<typeof keptPlanSchema>
