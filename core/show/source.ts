import { z } from 'zod'
import { chromaKeySchema } from './chromaKey'
import { colourSchema } from './colour'
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

/** The typefaces that ship with the application. */
export const textFonts = [
  'Literata',
  'Atkinson Hyperlegible Next',
  'Atkinson Hyperlegible Mono',
] as const
export const textWeights = [400, 600, 700] as const

/** The SHA-256 of a stored file, in hexadecimal: the same file has the same name everywhere. */
export const fileIdSchema = z.string().regex(/^[0-9a-f]{64}$/)

/** What is drawn for the source: one of the drawings that ship with the application, a person's own file, or something made of words and colour. */
export const appearanceSchema = z.discriminatedUnion('type', [
  z.strictObject({
    type: z.literal('drawing'),
    drawing: z.string().regex(/^[a-z0-9-]{1,60}$/),
  }),
  z.strictObject({
    type: z.literal('picture file'),
    fileId: fileIdSchema,
    fileName: shortTextSchema,
  }),
  z.strictObject({
    type: z.literal('media file'),
    fileId: fileIdSchema,
    fileName: shortTextSchema,
    durationSeconds: z.number().min(0),
    /** As the file itself names it, as in "avc1.64001f". */
    codec: shortTextSchema,
  }),
  z.strictObject({
    type: z.literal('text'),
    text: z.string().max(500),
    colour: colourSchema,
    font: z.enum(textFonts),
    weight: z.literal([...textWeights]),
    /** In the source's own pixels; a placement scales it along. */
    sizePixels: z.number().min(4).max(1000),
    wrap: z.boolean(),
    /** A darker band behind the words, in the dressing's colour. */
    band: z.boolean(),
  }),
  z.strictObject({ type: z.literal('colour'), colour: colourSchema }),
  z.strictObject({
    type: z.literal('goal bar'),
    label: shortTextSchema,
    percent: z.number().min(0).max(100),
  }),
  z.strictObject({ type: z.literal('alerts'), text: shortTextSchema }),
])
export type Appearance = z.infer<typeof appearanceSchema>
export type TextAppearance = Extract<Appearance, { type: 'text' }>

/** The part of a source that has to stay whole, such as a face, in the source's own pixels. */
export const focusSchema = z.strictObject({
  x: z.number().min(0).max(16384),
  y: z.number().min(0).max(16384),
  width: z.number().min(1).max(16384),
  height: z.number().min(1).max(16384),
})
export type Focus = z.infer<typeof focusSchema>

export const sourceSchema = z.strictObject({
  id: identifierSchema,
  name: shortTextSchema.min(1),
  kind: sourceKindSchema,
  nativeWidth: z.int().min(1).max(16384),
  nativeHeight: z.int().min(1).max(16384),
  /** null for a source that gives a still picture. */
  nativeFramesPerSecond: z.number().min(1).max(240).nullable(),
  appearance: appearanceSchema,
  focus: focusSchema.nullable(),
  /** null where none was ever set. */
  chromaKey: chromaKeySchema.nullable(),
})
/** Something that gives a picture, with its own size in pixels and its own frame rate. */
export type Source = z.infer<typeof sourceSchema>

const pixelTypes: readonly Appearance['type'][] = ['drawing', 'picture file', 'media file']

/** Whether a source is made of pixels at all; words, colours and bars are drawn at the size they are given. */
export function hasOwnPixels(source: Pick<Source, 'appearance'>): boolean {
  return pixelTypes.includes(source.appearance.type)
}

/** The size of a source's own picture, in pixels. */
export const nativeSizeOf = (
  source: Pick<Source, 'nativeWidth' | 'nativeHeight'>,
): { width: number; height: number } => ({
  width: source.nativeWidth,
  height: source.nativeHeight,
})
