import {
  baselinesOf,
  type MeasureWords,
  middleOf,
  type Part,
  partsOfPlacement,
} from '@green-mantle/core/canvas'
import type { CanvasName, Dressing, Layer, Size, Source } from '@green-mantle/core/show'

type Context = OffscreenCanvasRenderingContext2D | CanvasRenderingContext2D

/** A picture with its size in its own pixels. */
export interface SizedPicture extends Size {
  image: CanvasImageSource
}

/** What a canvas is painted from. */
export interface PaintedCanvas {
  name: CanvasName
  size: Size
  /** Those on air, front to back. */
  layers: readonly Layer[]
  sources: ReadonlyMap<string, Source>
  dressing: Dressing
  measure: MeasureWords
  /** By font of the core, the name under which it was loaded. */
  families: Readonly<Record<Extract<Part, { kind: 'words' }>['font'], string>>
  /** The picture of a source as it is now; undefined while it has none. */
  pictureOf: (source: Source) => SizedPicture | undefined
}

/** As the stage and the files have it: what no source covers. */
const ground = '#0b120e'
const noPicture = '#24332b'

function roundedPath(
  context: Context,
  { x, y, width, height }: { x: number; y: number } & Size,
  radius: number,
): void {
  context.beginPath()
  if (radius > 0) context.roundRect(x, y, width, height, radius)
  else context.rect(x, y, width, height)
}

function paintPicture(
  context: Context,
  { box, crop, cornerRadius }: Extract<Part, { kind: 'picture' }>,
  source: Source,
  picture: SizedPicture | undefined,
): void {
  roundedPath(context, box, cornerRadius)
  if (!picture) {
    context.fillStyle = noPicture
    context.fill()
    return
  }
  const [across, down] = [picture.width / source.nativeWidth, picture.height / source.nativeHeight]
  context.save()
  if (cornerRadius > 0) context.clip()
  context.drawImage(
    picture.image,
    ...([crop.x * across, crop.y * down, crop.width * across, crop.height * down] as const),
    ...([box.x, box.y, box.width, box.height] as const),
  )
  context.restore()
}

/** The line, or as much of it as there is room for. */
function shortened(context: Context, line: string, width: number): string {
  if (context.measureText(line).width <= width) return line
  const signs = [...line]
  while (signs.length > 0 && context.measureText(`${signs.join('')}…`).width > width) signs.pop()
  return `${signs.join('')}…`
}

function paintWords(
  context: Context,
  part: Extract<Part, { kind: 'words' }>,
  families: PaintedCanvas['families'],
): void {
  const { box, lines, font, weight, fontSize, colour, align } = part
  context.font = `${weight} ${fontSize}px "${families[font]}"`
  context.fillStyle = colour
  context.textBaseline = 'alphabetic'
  context.textAlign = align === 'centre' ? 'center' : 'left'
  const x = align === 'centre' ? box.x + box.width / 2 : box.x
  baselinesOf(part).forEach((baseline, index) => {
    context.fillText(shortened(context, lines[index] ?? '', box.width), x, baseline)
  })
}

function paintRectangle(
  context: Context,
  { box, fill, cornerRadius, stroke }: Extract<Part, { kind: 'rectangle' }>,
): void {
  roundedPath(context, box, cornerRadius)
  if (fill) {
    context.fillStyle = fill
    context.fill()
  }
  if (!stroke) return
  context.strokeStyle = stroke.colour
  context.lineWidth = stroke.width
  context.stroke()
}

/** Paints one source where it stands: the parts that the core describes, turned about the middle, flipped inside that. */
function paintLayer(context: Context, canvas: PaintedCanvas, layer: Layer): void {
  const source = canvas.sources.get(layer.sourceId)
  const placement = layer[canvas.name]
  if (!source || !placement.shown) return
  const { x, y } = middleOf(placement)
  const { width, height } = placement
  const opacity = placement.opacityPercent / 100
  context.save()
  context.translate(x, y)
  context.rotate((placement.turnDegrees * Math.PI) / 180)
  context.scale(placement.flippedAcross ? -1 : 1, placement.flippedDown ? -1 : 1)
  context.translate(-width / 2, -height / 2)
  const { dressing, size, measure } = canvas
  for (const part of partsOfPlacement({
    placement,
    source,
    dressing,
    canvas: size,
    measure,
  })) {
    context.globalAlpha = opacity * (part.kind === 'rectangle' ? part.opacity : 1)
    if (part.kind === 'picture') paintPicture(context, part, source, canvas.pictureOf(source))
    else if (part.kind === 'words') paintWords(context, part, canvas.families)
    else paintRectangle(context, part)
  }
  context.restore()
}

/** Paints a whole canvas of a scene at its own size. */
export function paintCanvas(context: Context, canvas: PaintedCanvas): void {
  context.setTransform(1, 0, 0, 1, 0, 0)
  context.globalAlpha = 1
  context.fillStyle = ground
  context.fillRect(0, 0, canvas.size.width, canvas.size.height)
  for (const layer of canvas.layers.toReversed()) paintLayer(context, canvas, layer)
}
