import {
  baselinesOf,
  feedAt,
  lineHeight,
  middleOf,
  type Part,
  partsOfPlacement,
} from '@green-mantle/core/canvas'
import type { Dressing, Placement, Size, Source } from '@green-mantle/core/show'
import { fontFamilies } from '~/pictures/fontFamilies'
import { measureWords } from '~/pictures/measureWords'

/** A Konva shape by kind with its configuration, ready for a renderer. */
export interface ShapeConfig {
  kind: 'v-image' | 'v-rect' | 'v-text'
  config: Record<string, unknown>
}

export interface Picturing {
  placement: Placement
  source: Source
  dressing: Dressing
  canvas: Size
}

/** The picture to draw for a source; undefined while there is none. */
export type FindPicture = (
  part: Extract<Part, { kind: 'picture' }>,
) => CanvasImageSource | undefined

function sizeOfPicture(picture: CanvasImageSource): Size {
  if (picture instanceof HTMLVideoElement)
    return { width: picture.videoWidth, height: picture.videoHeight }
  return picture as HTMLCanvasElement
}

function pictureShape(
  part: Extract<Part, { kind: 'picture' }>,
  source: Source,
  findPicture: FindPicture,
): ShapeConfig {
  const { box, crop, cornerRadius } = part
  const picture = findPicture(part)
  const own = picture && sizeOfPicture(picture)
  if (!own?.width) return { kind: 'v-rect', config: { ...box, fill: '#24332b', cornerRadius } }
  const across = own.width / source.nativeWidth
  const down = own.height / source.nativeHeight
  return {
    kind: 'v-image',
    config: {
      ...box,
      image: picture,
      cornerRadius,
      crop: {
        x: crop.x * across,
        y: crop.y * down,
        width: crop.width * across,
        height: crop.height * down,
      },
    },
  }
}

function wordShapes(part: Extract<Part, { kind: 'words' }>): ShapeConfig[] {
  const { box, lines, font, weight, fontSize, colour, align } = part
  return baselinesOf(part).map((baseline, index) => ({
    kind: 'v-text',
    config: {
      x: box.x,
      // Konva puts the middle of a line where it is told, 0.35 em above the baseline.
      y: baseline - 0.35 * fontSize - (fontSize * lineHeight) / 2,
      width: box.width,
      height: fontSize * lineHeight,
      text: lines[index],
      fill: colour,
      fontFamily: fontFamilies[font],
      fontStyle: String(weight),
      fontSize,
      align: align === 'centre' ? 'center' : 'left',
      verticalAlign: 'middle',
      wrap: 'none',
      ellipsis: true,
    },
  }))
}

/** What is drawn inside a placement's box, back to front, from its upper left corner in canvas pixels. */
export function shapesOf(
  { placement, source, dressing, canvas }: Picturing,
  findPicture: FindPicture,
  feedSeconds?: number,
): ShapeConfig[] {
  const { appearance } = source
  const feed =
    feedSeconds === undefined
      ? undefined
      : feedAt(feedSeconds, appearance.type === 'goal bar' ? appearance.percent : 0)
  return partsOfPlacement({
    placement,
    source,
    dressing,
    canvas,
    feed,
    measure: measureWords,
  }).flatMap((part): ShapeConfig[] => {
    if (part.kind === 'picture') return [pictureShape(part, source, findPicture)]
    if (part.kind === 'words') return wordShapes(part)
    const { box, fill, opacity, cornerRadius, stroke } = part
    return [
      {
        kind: 'v-rect',
        config: {
          ...box,
          opacity,
          cornerRadius,
          ...(fill ? { fill } : {}),
          ...(stroke ? { stroke: stroke.colour, strokeWidth: stroke.width } : {}),
        },
      },
    ]
  })
}

/** The group of a placement. Its origin is its middle, so that it turns about it. */
export function groupConfig(placement: Placement) {
  const { x, y } = middleOf(placement)
  return {
    x,
    y,
    width: placement.width,
    height: placement.height,
    offsetX: placement.width / 2,
    offsetY: placement.height / 2,
    rotation: placement.turnDegrees,
    opacity: placement.opacityPercent / 100,
    scaleX: 1,
    scaleY: 1,
  }
}

/** Flipping happens inside the group, so that handles and turning stay as they are. */
export function flipConfig({ flippedAcross, flippedDown, width, height }: Placement) {
  return {
    x: flippedAcross ? width : 0,
    y: flippedDown ? height : 0,
    scaleX: flippedAcross ? -1 : 1,
    scaleY: flippedDown ? -1 : 1,
  }
}
