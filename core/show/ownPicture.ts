import { z } from 'zod'
import { effortSchema } from './codec'
import { shortTextSchema } from './identifier'
import { pictureKinds } from './pictureKind'

const share = z.number().min(0).max(1)
const side = z.int().min(16).max(16384)
const rate = z.number().min(1).max(240)

/** One encode of the clip, held against the clip. */
export const measuredPointSchema = z.strictObject({
  width: side,
  height: side,
  framesPerSecond: rate,
  /** What the encode really took. */
  videoBitrateKbps: z.number().min(1).max(1_000_000),
  ssim: share,
  /** Of luma at the first scale. */
  vif: z.number().min(0).max(2),
  /** null where nothing differs. */
  psnrDecibels: z.number().min(0).max(200).nullable(),
})
export type MeasuredPoint = z.infer<typeof measuredPointSchema>

/** What real encodes of a clip say about the picture of a show; see docs/measured.md. */
export const ownPictureSchema = z.strictObject({
  name: shortTextSchema.min(1),
  measuredAt: z.iso.datetime().max(40),
  /** The encoder program and its version, and what it ran on. */
  program: shortTextSchema,
  processor: shortTextSchema,
  clip: z.strictObject({ width: side, height: side, framesPerSecond: rate, seconds: z.number() }),
  /** ITU-T P.910, mean over the clip. */
  spatialInformation: z.number().min(0),
  temporalInformation: z.number().min(0),
  /** Whose exponents and steepnesses fit it best. */
  nearestKind: z.enum(pictureKinds),
  /** kb/s for a clean H.264 picture of 1920×1080 at 60 frames a second, fitted. */
  cleanBitrateKbps: z.number().min(10).max(10_000_000),
  /** With which effort of H.264 the points were made. */
  effort: effortSchema,
  points: z.array(measuredPointSchema).min(1).max(60),
})
export type OwnPicture = z.infer<typeof ownPictureSchema>
