import {
  type Dressing,
  dressingShortSidePixels,
  type Placement,
  type Size,
  type Source,
} from '../show'
import { captionFontSize, goalBarParts } from './content'
import { isBackdrop } from './covered'
import type { Box } from './geometry'
import { textFontSize } from './readable'
import { usedPart } from './trim'
import { estimateWidth, type Font, lineHeight, linesOf, type MeasureWords } from './words'

/** A plain shape inside a placement, in canvas pixels from its upper left corner before turning. */
export type Part =
  | {
      kind: 'picture'
      box: Box
      /** What is shown of the source, in its own pixels. */
      crop: Box
      cornerRadius: number
    }
  | {
      kind: 'rectangle'
      box: Box
      fill: string | null
      opacity: number
      cornerRadius: number
      stroke: { colour: string; width: number } | null
    }
  | {
      kind: 'words'
      /** The lines stand in the middle of it from top to bottom. */
      box: Box
      lines: string[]
      font: Font
      weight: number
      fontSize: number
      colour: string
      align: 'left' | 'centre'
    }

/** What the simulated feed shows at the moment instead of what is set. */
export interface FeedState {
  percent: number
  alert: string | null
}

interface Drawn {
  placement: Placement
  source: Pick<Source, 'name' | 'kind' | 'appearance' | 'nativeWidth' | 'nativeHeight'>
  dressing: Dressing
  canvas: Size
  /** Left out where nothing moves. */
  feed?: FeedState | undefined
  measure?: MeasureWords
}

const bandOpacity = 0.62
const labelledKinds: readonly Source['kind'][] = ['camera', 'guest']

const rectangle = (
  box: Box,
  fill: string,
  cornerRadius: number,
  opacity = 1,
): Extract<Part, { kind: 'rectangle' }> => ({
  kind: 'rectangle',
  box,
  fill,
  opacity,
  cornerRadius,
  stroke: null,
})

/** How large the dressing's pixels are on a canvas. */
export const dressingScale = ({ width, height }: Size): number =>
  Math.min(width, height) / dressingShortSidePixels

/** The rounding of a placement's corners in canvas pixels: its own, or the dressing's; never more than half its shorter side. */
export function cornerRadiusOf(placement: Placement, dressing: Dressing, canvas: Size): number {
  const fromDressing =
    placement.dressed && !isBackdrop(placement, canvas)
      ? dressing.cornerRadiusPixels * dressingScale(canvas)
      : 0
  const radius = placement.cornerRadius ?? fromDressing
  return Math.min(radius, placement.width / 2, placement.height / 2)
}

function textParts(
  { placement, source, dressing, canvas, measure }: Drawn,
  radius: number,
): Part[] {
  if (source.appearance.type !== 'text') return []
  const { appearance } = source
  const box = { x: 0, y: 0, width: placement.width, height: placement.height }
  const fontSize = textFontSize(placement, source, appearance)
  const margin = fontSize * 0.3
  const lines = linesOf(
    appearance.text,
    { ...appearance, sizePixels: fontSize },
    placement.width - 2 * margin,
    measure,
  )
  const { bandColour } = dressing.label
  const corners = radius || Math.min(placement.height * 0.12, 16 * dressingScale(canvas))
  return [
    ...(appearance.band ? [rectangle(box, bandColour, corners, bandOpacity)] : []),
    {
      kind: 'words',
      box: {
        x: margin,
        y: 0,
        width: Math.max(1, placement.width - 2 * margin),
        height: box.height,
      },
      lines,
      font: appearance.font,
      weight: appearance.weight,
      fontSize,
      colour: appearance.colour,
      align: 'centre',
    },
  ]
}

function alertParts({ placement, source, dressing, feed }: Drawn, radius: number): Part[] {
  if (source.appearance.type !== 'alerts') return []
  const text = feed ? feed.alert : source.appearance.text
  if (text === null) return []
  const box = { x: 0, y: 0, width: placement.width, height: placement.height }
  return [
    rectangle(box, dressing.alerts.bandColour, radius || placement.height * 0.12),
    {
      kind: 'words',
      box,
      lines: [text],
      font: 'Literata',
      weight: 600,
      fontSize: captionFontSize(placement, text.length),
      colour: dressing.alerts.textColour,
      align: 'centre',
    },
  ]
}

function goalParts({ placement, source, dressing, feed }: Drawn, radius: number): Part[] {
  if (source.appearance.type !== 'goal bar') return []
  const { appearance } = source
  const { goalBar } = dressing
  const box = { x: 0, y: 0, width: placement.width, height: placement.height }
  const parts = goalBarParts(placement, feed?.percent ?? appearance.percent)
  const round = parts.track.height / 2
  return [
    rectangle(box, goalBar.bandColour, radius || parts.cornerRadius),
    {
      kind: 'words',
      box: parts.label,
      lines: [appearance.label],
      font: 'Atkinson Hyperlegible Next',
      weight: 700,
      fontSize: parts.label.fontSize,
      colour: goalBar.textColour,
      align: 'left',
    },
    rectangle(parts.track, goalBar.trackColour, round),
    rectangle(parts.filled, goalBar.filledColour, Math.min(round, parts.filled.width / 2)),
  ]
}

function frameAndLabel(drawn: Drawn, radius: number): Part[] {
  const { placement, source, dressing, canvas, measure = estimateWidth } = drawn
  if (!placement.dressed || isBackdrop(placement, canvas)) return []
  const scale = dressingScale(canvas)
  const { frame, label } = dressing
  const width = frame.widthPixels * scale
  const parts: Part[] = []
  if (width > 0)
    parts.push({
      kind: 'rectangle',
      box: {
        x: width / 2,
        y: width / 2,
        width: Math.max(0, placement.width - width),
        height: Math.max(0, placement.height - width),
      },
      fill: null,
      opacity: 1,
      cornerRadius: Math.max(0, radius - width / 2),
      stroke: { colour: frame.colour, width },
    })
  if (label.place === 'no label' || !labelledKinds.includes(source.kind)) return parts
  const font = 'Atkinson Hyperlegible Next'
  const fontSize = Math.min(label.sizePixels * scale, placement.height / 4)
  const height = fontSize * 1.6
  const own = measure(source.name, font, 600) * fontSize + fontSize
  const box = {
    x: width,
    y: label.place === 'inside above' ? width : placement.height - width - height,
    width: Math.min(own, placement.width - 2 * width),
    height,
  }
  return [
    ...parts,
    rectangle(box, label.bandColour, Math.min(radius, height / 4)),
    {
      kind: 'words',
      box: { ...box, x: box.x + fontSize / 2, width: Math.max(1, box.width - fontSize / 2) },
      lines: [source.name],
      font,
      weight: 600,
      fontSize,
      colour: label.textColour,
      align: 'left',
    },
  ]
}

/**
 * What is drawn inside a placement, back to front: the one description that the canvas on screen, the
 * small pictures and the files are made from.
 */
export function partsOfPlacement(drawn: Drawn): Part[] {
  const { placement, source, dressing, canvas } = drawn
  const radius = cornerRadiusOf(placement, dressing, canvas)
  const box = { x: 0, y: 0, width: placement.width, height: placement.height }
  switch (source.appearance.type) {
    case 'text':
      return textParts(drawn, radius)
    case 'alerts':
      return alertParts(drawn, radius)
    case 'goal bar':
      return goalParts(drawn, radius)
    case 'colour':
      return [rectangle(box, source.appearance.colour, radius), ...frameAndLabel(drawn, radius)]
    default: {
      const native = { width: source.nativeWidth, height: source.nativeHeight }
      const crop = usedPart(native, placement.trim)
      return [{ kind: 'picture', box, crop, cornerRadius: radius }, ...frameAndLabel(drawn, radius)]
    }
  }
}

/** The baselines of the lines of words in their box, in canvas pixels from its top: the block stands in the middle. */
export function baselinesOf({ box, lines, fontSize }: Extract<Part, { kind: 'words' }>): number[] {
  const spacing = fontSize * lineHeight
  const top = (box.height - spacing * lines.length) / 2
  // Latin capitals stand about 0.7 em high, so this puts their middle in the middle of the line.
  const intoLine = spacing / 2 + fontSize * 0.35
  return lines.map((_, index) => box.y + top + index * spacing + intoLine)
}
