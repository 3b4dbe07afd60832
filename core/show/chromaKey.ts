import { z } from 'zod'
import { colourSchema } from './colour'

const percentSchema = z.number().min(0).max(100)

export const chromaKeySchema = z.strictObject({
  on: z.boolean(),
  /** The backdrop's colour, which becomes transparent. */
  colour: colourSchema,
  /** How far from that colour a pixel may be and still vanish altogether. */
  similarityPercent: percentSchema,
  /** Over what further distance it fades in. */
  smoothnessPercent: percentSchema,
  /** How much of the backdrop's light is taken out of what stays. */
  spillPercent: percentSchema,
})
export type ChromaKey = z.infer<typeof chromaKeySchema>

export const defaultChromaKey: ChromaKey = {
  on: true,
  colour: '#3ab54a',
  similarityPercent: 20,
  smoothnessPercent: 10,
  spillPercent: 50,
}
