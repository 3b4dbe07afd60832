import { z } from 'zod'

export const canvasNames = ['landscape', 'vertical'] as const
export type CanvasName = (typeof canvasNames)[number]
export const canvasNameSchema = z.enum(canvasNames)

export const otherCanvas = {
  landscape: 'vertical',
  vertical: 'landscape',
} as const satisfies Record<CanvasName, CanvasName>

/** One value for each canvas. */
export const onBoth = <Value>(of: (canvas: CanvasName) => Value): Record<CanvasName, Value> => ({
  landscape: of('landscape'),
  vertical: of('vertical'),
})

/** Smallest and largest side of a canvas or rendition, in pixels; sides are even, as 4:2:0 video needs. */
export const sideLimitsPixels = { min: 160, max: 7680 } as const

export const sidePixelsSchema = z
  .int()
  .min(sideLimitsPixels.min)
  .max(sideLimitsPixels.max)
  .multipleOf(2)

export const framesPerSecondChoices = [24, 25, 30, 48, 50, 60] as const
export const framesPerSecondSchema = z.literal([...framesPerSecondChoices])

export const sizeSchema = z.strictObject({ width: sidePixelsSchema, height: sidePixelsSchema })
/** A size in pixels. */
export type Size = z.infer<typeof sizeSchema>

export const canvasPairSchema = z.strictObject({
  framesPerSecond: framesPerSecondSchema,
  landscape: sizeSchema,
  vertical: sizeSchema,
})
/** The landscape and the vertical canvas of a show, in pixels, and the frame rate that both share. */
export type CanvasPair = z.infer<typeof canvasPairSchema>

/** The sizes that are usually chosen. */
export const commonCanvasSizes = {
  landscape: [
    { width: 1920, height: 1080 },
    { width: 2560, height: 1440 },
    { width: 1280, height: 720 },
    { width: 3840, height: 2160 },
  ],
  vertical: [
    { width: 1080, height: 1920 },
    { width: 720, height: 1280 },
    { width: 1440, height: 2560 },
  ],
} as const satisfies Record<CanvasName, readonly Size[]>
