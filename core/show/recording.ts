import { z } from 'zod'
import { canvasNameSchema } from './canvasPair'
import { codecSchema } from './codec'
import { viewerScreens } from './destination'
import { identifierSchema, shortTextSchema } from './identifier'
import { wishSchema } from './plan'
import { renditionSchema, videoBitrateKbpsSchema } from './rendition'

export const recordedMixes = ['live mix', 'archive mix'] as const
export type RecordedMix = (typeof recordedMixes)[number]

export const recordingSchema = z.strictObject({
  id: identifierSchema,
  name: shortTextSchema.min(1),
  canvas: canvasNameSchema,
  on: z.boolean(),
  plan: wishSchema,
  mix: z.enum(recordedMixes),
  /** The screens it will be watched on. */
  viewers: z.array(z.enum(viewerScreens)).min(1).max(3),
  codecs: z.array(codecSchema).min(1).max(3),
  mostVideoBitrateKbps: videoBitrateKbpsSchema,
  rendition: renditionSchema,
})
/** A file kept on the disk while the show runs: an encode without a send. */
export type Recording = z.infer<typeof recordingSchema>
