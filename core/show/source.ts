import { z } from 'zod'
import { identifierSchema, shortTextSchema } from './identifier'

export const sourceKinds = [
  'camera',
  'screen',
  'window',
  'picture',
  'text',
  'colour',
  'media file',
  'alerts',
  'goal bar',
  'web page',
  'guest',
] as const
export const sourceKindSchema = z.enum(sourceKinds)
export type SourceKind = z.infer<typeof sourceKindSchema>

const colourSchema = z.string().regex(/^#[0-9a-f]{6}$/, 'a colour as #rrggbb in lower case')

/** What is drawn for the source: one of the drawings that ship with the application, or something made of words and colour. */
export const appearanceSchema = z.discriminatedUnion('type', [
  z.strictObject({
    type: z.literal('drawing'),
    drawing: z.string().regex(/^[a-z0-9-]{1,60}$/),
  }),
  z.strictObject({ type: z.literal('text'), text: z.string().max(500), colour: colourSchema }),
  z.strictObject({ type: z.literal('colour'), colour: colourSchema }),
  z.strictObject({
    type: z.literal('goal bar'),
    label: shortTextSchema,
    percent: z.number().min(0).max(100),
  }),
  z.strictObject({ type: z.literal('alerts'), text: shortTextSchema }),
])
export type Appearance = z.infer<typeof appearanceSchema>

export const sourceSchema = z.strictObject({
  id: identifierSchema,
  name: shortTextSchema.min(1),
  kind: sourceKindSchema,
  nativeWidth: z.int().min(1).max(16384),
  nativeHeight: z.int().min(1).max(16384),
  /** null for a source that gives a still picture. */
  nativeFramesPerSecond: z.number().min(1).max(240).nullable(),
  appearance: appearanceSchema,
})
/** Something that gives a picture, with its own size in pixels and its own frame rate. */
export type Source = z.infer<typeof sourceSchema>

/** Whether a source is made of pixels at all; words, colours and bars are drawn at the size they are given. */
export function hasOwnPixels(source: Pick<Source, 'appearance'>): boolean {
  return source.appearance.type === 'drawing'
}
