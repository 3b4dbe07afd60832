import { z } from 'zod'
import { identifierSchema, shortTextSchema } from './identifier'
import { mostOf } from './mostOf'

const canvasCoordinateSchema = z.number().min(-32768).max(32768)
const placedSideSchema = z.number().min(1).max(32768)
const trimSchema = z.number().min(0).max(16384)

export const placementSchema = z.strictObject({
  x: canvasCoordinateSchema,
  y: canvasCoordinateSchema,
  width: placedSideSchema,
  height: placedSideSchema,
  /** Clockwise about the middle of the box. */
  turnDegrees: z.number().min(-360).max(360),
  flippedAcross: z.boolean(),
  flippedDown: z.boolean(),
  /** What is cut off each edge, in the source's own pixels. */
  trim: z.strictObject({
    left: trimSchema,
    top: trimSchema,
    right: trimSchema,
    bottom: trimSchema,
  }),
  shown: z.boolean(),
  locked: z.boolean(),
  opacityPercent: z.number().min(0).max(100),
  /** In canvas pixels; null follows the dressing. */
  cornerRadius: z.number().min(0).max(16384).nullable(),
  /** Whether it wears the show's dressing. */
  dressed: z.boolean(),
})
/** Where one source stands on one canvas; x, y is the upper left corner of the unturned box in canvas pixels. */
export type Placement = z.infer<typeof placementSchema>
export type Trim = Placement['trim']

export const layerSchema = z.strictObject({
  id: identifierSchema,
  sourceId: identifierSchema,
  landscape: placementSchema,
  vertical: placementSchema,
})
/** One source in a scene with its two placements. A source that is not on a canvas has a placement there that is not shown. */
export type Layer = z.infer<typeof layerSchema>

/** What a scene is for, besides being one of the show's scenes; `standby` goes out while nobody draws the show. */
export const sceneRoles = ['starting', 'break', 'end', 'standby'] as const
export type SceneRole = (typeof sceneRoles)[number]

export const transitionKinds = ['cut', 'fade'] as const
export const transitionSchema = z.strictObject({
  kind: z.enum(transitionKinds),
  /** How long a fade takes; kept, but without effect, for a cut. */
  milliseconds: z.int().min(0).max(10_000),
})
/** How one scene gives way to the next, on both canvases. */
export type Transition = z.infer<typeof transitionSchema>

/** What stands on air in place of a source whose device is gone. */
export const withoutDeviceKinds = ['card', 'hidden'] as const
export type WithoutDevice = (typeof withoutDeviceKinds)[number]

export const sceneSchema = z.strictObject({
  id: identifierSchema,
  name: shortTextSchema.min(1),
  /** Front to back; the order holds on both canvases. */
  layers: z.array(layerSchema).max(mostOf.layers),
  role: z.enum(sceneRoles).nullable(),
  /**
   * The scene whose vertical arrangement is on air with this one; null for its own. Its own is kept
   * in its layers meanwhile.
   */
  verticalOf: identifierSchema.nullable(),
  /** How it comes on air, where not as the show's scenes do. */
  comesBy: transitionSchema.optional(),
  /** Where a source's device is gone: hidden, or, as where nothing is said, a plain card in the dressing. */
  withoutDevice: z.enum(withoutDeviceKinds).optional(),
})
/** Which sources are on air, and where each stands on each of the two canvases. */
export type Scene = z.infer<typeof sceneSchema>

/** How a scene of a show comes on air. */
export const transitionTo = (
  show: { transition: Transition },
  scene: Pick<Scene, 'comesBy'> | undefined,
): Transition => scene?.comesBy ?? show.transition

/** The scene that goes out while nobody draws the show: that for standing by, else for starting, else the first. */
export const standbySceneOf = ({ scenes }: { scenes: readonly Scene[] }): Scene | undefined =>
  scenes.find(({ role }) => role === 'standby') ??
  scenes.find(({ role }) => role === 'starting') ??
  scenes[0]
