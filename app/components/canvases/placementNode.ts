import { captionFontSize, cropOf, goalBarParts, shownSourceWidth } from '@green-mantle/core/canvas'
import type { Placement, Source } from '@green-mantle/core/show'
import { drawingBitmap } from '~/composables/drawings'

/** A Konva shape by kind with its configuration, ready for a renderer. */
export interface ShapeConfig {
  kind: 'v-image' | 'v-rect' | 'v-text'
  config: Record<string, unknown>
}

const titleFont = 'Literata Variable'
const textFont = 'Atkinson Hyperlegible Next Variable'

function bandAndWords(
  { width, height }: Placement,
  text: string,
  colour: string,
  band: string,
): ShapeConfig[] {
  return [
    { kind: 'v-rect', config: { width, height, fill: band, cornerRadius: height * 0.12 } },
    {
      kind: 'v-text',
      config: {
        width,
        height,
        text,
        fill: colour,
        fontFamily: titleFont,
        fontStyle: '600',
        fontSize: captionFontSize({ width, height }, text.length),
        align: 'center',
        verticalAlign: 'middle',
        wrap: 'none',
        ellipsis: true,
      },
    },
  ]
}

function goalBar(placement: Placement, label: string, percent: number): ShapeConfig[] {
  const parts = goalBarParts(placement, percent)
  const { width, height } = placement
  const round = parts.track.height / 2
  return [
    {
      kind: 'v-rect',
      config: { width, height, fill: '#fffdf6', cornerRadius: parts.cornerRadius },
    },
    {
      kind: 'v-text',
      config: {
        ...parts.label,
        text: label,
        fill: '#1f2a23',
        fontFamily: textFont,
        fontStyle: '700',
        wrap: 'none',
        ellipsis: true,
      },
    },
    { kind: 'v-rect', config: { ...parts.track, fill: '#dce7cf', cornerRadius: round } },
    { kind: 'v-rect', config: { ...parts.filled, fill: '#2f5d3a', cornerRadius: round } },
  ]
}

function drawing(placement: Placement, source: Source, name: string, scale: number): ShapeConfig[] {
  const { width, height, trim } = placement
  const native = { width: source.nativeWidth, height: source.nativeHeight }
  const image = drawingBitmap(name, shownSourceWidth(placement, native, scale))
  if (!image) return [{ kind: 'v-rect', config: { width, height, fill: '#24332b' } }]
  return [{ kind: 'v-image', config: { width, height, image, crop: cropOf(native, trim, image) } }]
}

/**
 * What is drawn inside a placement's box, back to front, from its upper left corner in canvas
 * pixels; `scale` is screen pixels per canvas pixel.
 */
export function shapesOf(placement: Placement, source: Source, scale: number): ShapeConfig[] {
  const { appearance } = source
  switch (appearance.type) {
    case 'drawing':
      return drawing(placement, source, appearance.drawing, scale)
    case 'text':
      return bandAndWords(placement, appearance.text, appearance.colour, 'rgba(14, 26, 21, 0.55)')
    case 'alerts':
      return bandAndWords(placement, appearance.text, '#fffdf6', '#5f2d55')
    case 'goal bar':
      return goalBar(placement, appearance.label, appearance.percent)
    case 'colour':
      return [
        {
          kind: 'v-rect',
          config: { width: placement.width, height: placement.height, fill: appearance.colour },
        },
      ]
  }
}
