import { z } from 'zod'
import { colourSchema } from './colour'
import { shortTextSchema } from './identifier'

/** Lengths are pixels on a canvas whose shorter side is this; other canvases scale them. */
export const dressingShortSidePixels = 1080

export const labelPlaces = ['no label', 'inside above', 'inside below'] as const

export const dressingSchema = z.strictObject({
  name: shortTextSchema.min(1),
  frame: z.strictObject({ widthPixels: z.number().min(0).max(60), colour: colourSchema }),
  cornerRadiusPixels: z.number().min(0).max(300),
  /** A name plate on cameras and guests; its colours also serve captions. */
  label: z.strictObject({
    place: z.enum(labelPlaces),
    textColour: colourSchema,
    bandColour: colourSchema,
    sizePixels: z.number().min(12).max(120),
  }),
  goalBar: z.strictObject({
    textColour: colourSchema,
    bandColour: colourSchema,
    trackColour: colourSchema,
    filledColour: colourSchema,
  }),
  alerts: z.strictObject({ textColour: colourSchema, bandColour: colourSchema }),
})
/** One look given to all placements of a show on both canvases. */
export type Dressing = z.infer<typeof dressingSchema>

/** The four that ship with the application, to start from. */
export const ourDressings = [
  {
    name: 'Lichen',
    frame: { widthPixels: 0, colour: '#dce7cf' },
    cornerRadiusPixels: 0,
    label: {
      place: 'no label',
      textColour: '#fffdf6',
      bandColour: '#0e1a15',
      sizePixels: 30,
    },
    goalBar: {
      textColour: '#1f2a23',
      bandColour: '#fffdf6',
      trackColour: '#dce7cf',
      filledColour: '#2f5d3a',
    },
    alerts: { textColour: '#fffdf6', bandColour: '#5f2d55' },
  },
  {
    name: 'Pressed paper',
    frame: { widthPixels: 10, colour: '#f5f2e8' },
    cornerRadiusPixels: 6,
    label: {
      place: 'inside below',
      textColour: '#1f2a23',
      bandColour: '#f5f2e8',
      sizePixels: 28,
    },
    goalBar: {
      textColour: '#1f2a23',
      bandColour: '#f5f2e8',
      trackColour: '#d9d2bf',
      filledColour: '#8a3f79',
    },
    alerts: { textColour: '#1f2a23', bandColour: '#f5f2e8' },
  },
  {
    name: 'Night glass',
    frame: { widthPixels: 4, colour: '#7fb7a0' },
    cornerRadiusPixels: 28,
    label: {
      place: 'inside above',
      textColour: '#e6f2ea',
      bandColour: '#12241d',
      sizePixels: 28,
    },
    goalBar: {
      textColour: '#e6f2ea',
      bandColour: '#12241d',
      trackColour: '#24463a',
      filledColour: '#7fb7a0',
    },
    alerts: { textColour: '#e6f2ea', bandColour: '#12241d' },
  },
  {
    name: 'Clay label',
    frame: { widthPixels: 6, colour: '#a86a10' },
    cornerRadiusPixels: 14,
    label: {
      place: 'inside below',
      textColour: '#fffdf6',
      bandColour: '#6d4308',
      sizePixels: 32,
    },
    goalBar: {
      textColour: '#fffdf6',
      bandColour: '#6d4308',
      trackColour: '#8a5a14',
      filledColour: '#f2d9a6',
    },
    alerts: { textColour: '#fffdf6', bandColour: '#a5372b' },
  },
] as const satisfies readonly Dressing[]
