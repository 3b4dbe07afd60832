import { DOMParser, type Element as XmlElement } from '@xmldom/xmldom'
import { colord, extend } from 'colord'
import names from 'colord/plugins/names'
import {
  applyToPoint,
  compose,
  decomposeTSR,
  fromDefinition,
  fromTransformAttribute,
  type Matrix,
  scale,
  translate,
} from 'transformation-matrix'
import { z } from 'zod'
import { estimateWidth, lineHeight } from '../canvas'
import {
  type Placement,
  placementSchema,
  type Size,
  type Source,
  sourceSchema,
  type TextAppearance,
  textFonts,
} from '../show'
import { ownAttribute } from './writeCanvasSvg'

extend([names])

export const canvasSvgLimitBytes = 60_000_000

/** Something in an SVG that can stand on a canvas. */
export interface SvgItem {
  source: Pick<Source, 'name' | 'kind'> & Partial<Source>
  placement: Placement
  /** A picture written into the file, as a data address. */
  picture: string | null
  /** Whether the picture has to be fitted into its box in its own proportions, as SVG does by default. */
  keepsProportions: boolean
}

export type ReadSvgResult =
  | {
      ok: true
      /** Front to back. */
      items: SvgItem[]
      /** What could not be taken, in words. */
      notTaken: string[]
    }
  | { ok: false; message: string }

interface Inherited {
  matrix: Matrix
  opacity: number
  fill: string
  fontSize: number
  fontFamily: string
  fontWeight: string
  anchor: string
}

const ownItem = z.object({ source: sourceSchema, placement: placementSchema })
const drawnByOthers = new Set(['title', 'desc', 'metadata', 'defs', 'style', 'clipPath', 'mask'])

/** Presentation attributes, those of `style` first. */
function attribute(element: XmlElement, name: string): string | null {
  const style = element.getAttribute('style') ?? ''
  const declared = style
    .split(';')
    .map((declaration) => declaration.split(':'))
    .findLast(([key]) => key?.trim() === name)
  return declared?.slice(1).join(':').trim() ?? element.getAttribute(name)
}

function length(value: string | null, otherwise: number, whole = 0): number {
  const match = /^\s*(-?[\d.]+(?:e[-+]?\d+)?)\s*(px|%|pt)?\s*$/i.exec(value ?? '')
  if (!match) return otherwise
  const read = Number(match[1])
  if (!Number.isFinite(read)) return otherwise
  // CSS: a point is 4/3 of a pixel.
  return match[2] === '%' ? (read / 100) * whole : match[2] === 'pt' ? (read * 4) / 3 : read
}

function inherit(element: XmlElement, from: Inherited): Inherited {
  const transform = attribute(element, 'transform')
  const own = transform ? compose(fromDefinition(fromTransformAttribute(transform))) : undefined
  return {
    matrix: own ? compose(from.matrix, own) : from.matrix,
    opacity: from.opacity * length(attribute(element, 'opacity'), 1, 1),
    fill: attribute(element, 'fill') ?? from.fill,
    fontSize: length(attribute(element, 'font-size'), from.fontSize, from.fontSize),
    fontFamily: attribute(element, 'font-family') ?? from.fontFamily,
    fontWeight: attribute(element, 'font-weight') ?? from.fontWeight,
    anchor: attribute(element, 'text-anchor') ?? from.anchor,
  }
}

/** A box under a matrix as a placement; null where it is skewed or has no extent. */
function placed(
  box: { x: number; y: number; width: number; height: number },
  { matrix, opacity }: Inherited,
): Placement | null {
  const { scale: factors, rotation } = decomposeTSR(matrix)
  const across = Math.hypot(matrix.a, matrix.b)
  const down = Math.hypot(matrix.c, matrix.d)
  const skew = Math.abs(matrix.a * matrix.c + matrix.b * matrix.d) / (across * down || 1)
  if (skew > 1e-3) return null
  const width = box.width * across
  const height = box.height * down
  const middle = applyToPoint(matrix, { x: box.x + box.width / 2, y: box.y + box.height / 2 })
  const isMirrored = matrix.a * matrix.d - matrix.b * matrix.c < 0
  const read = placementSchema.safeParse({
    x: tidy(middle.x - width / 2),
    y: tidy(middle.y - height / 2),
    width: tidy(width),
    height: tidy(height),
    turnDegrees: tidy(isMirrored ? angleOf(matrix) : (rotation.angle * 180) / Math.PI),
    flippedAcross: false,
    // A mirrored box is turned as its upper edge is, and flipped down.
    flippedDown: isMirrored,
    trim: { left: 0, top: 0, right: 0, bottom: 0 },
    shown: true,
    locked: false,
    opacityPercent: Math.max(0, Math.min(100, Math.round(opacity * 100))),
    cornerRadius: null,
    dressed: true,
  })
  return read.success && factors.sx !== 0 ? read.data : null
}

const angleOf = ({ a, b }: Matrix): number => (Math.atan2(b, a) * 180) / Math.PI
// Adding 0 makes a plain zero of a negative one.
const tidy = (value: number): number => Math.round(value * 100) / 100 + 0

function plainColour(fill: string): string | null {
  const colour = colord(fill)
  return colour.isValid() ? colour.alpha(1).toHex() : null
}

function nameOf(element: XmlElement, otherwise: string): string {
  const title = Array.from(element.childNodes).find(
    (child) => (child as XmlElement).localName === 'title',
  )
  return (title?.textContent?.trim() || element.getAttribute('id') || otherwise).slice(0, 190)
}

function fontOf({ fontFamily, fontWeight }: Inherited): Pick<TextAppearance, 'font' | 'weight'> {
  const family = fontFamily.toLowerCase()
  const shipped = textFonts.find((font) => family.includes(font.toLowerCase()))
  const isMono = /mono|courier/.test(family)
  const isSerif = /(^|[^-])serif|times|georgia/.test(family) && !family.includes('sans-serif')
  const heavy = fontWeight === 'bold' ? 700 : Number(fontWeight) || 400
  return {
    font:
      shipped ??
      (isMono ? 'Atkinson Hyperlegible Mono' : isSerif ? 'Literata' : 'Atkinson Hyperlegible Next'),
    weight: heavy >= 650 ? 700 : heavy >= 500 ? 600 : 400,
  }
}

/** The lines of a text: each tspan with a place of its own begins one. */
function linesIn(element: XmlElement): string[] {
  const lines: string[] = []
  for (const child of Array.from(element.childNodes)) {
    const words = (child.textContent ?? '').replaceAll(/\s+/g, ' ')
    const inner = child.nodeType === 1 ? (child as XmlElement) : undefined
    if (inner?.localName === 'title' || inner?.localName === 'desc') continue
    const begins = inner && (inner.hasAttribute('y') || inner.hasAttribute('dy'))
    if (begins || lines.length === 0) lines.push(words)
    else lines[lines.length - 1] = `${lines.at(-1)}${words}`
  }
  return lines.map((line) => line.replaceAll(/\s+/g, ' ').trim()).filter(Boolean)
}

function textItem(element: XmlElement, context: Inherited): SvgItem | null {
  const lines = linesIn(element)
  const tspan = Array.from(element.childNodes).find(
    (child) => (child as XmlElement).localName === 'tspan',
  ) as XmlElement | undefined
  const at = (name: 'x' | 'y'): number =>
    length(attribute(element, name) ?? tspan?.getAttribute(name) ?? null, 0)
  const { fontSize, anchor } = context
  const { font, weight } = fontOf(context)
  const widest = Math.max(...lines.map((line) => estimateWidth(line, font, weight))) * fontSize
  // Half an em of margin, so that nothing is cut off where the estimate is short.
  const width = widest + fontSize
  const height = lines.length * lineHeight * fontSize
  const start =
    { start: -fontSize / 2, middle: -width / 2, end: -width + fontSize / 2 }[anchor] ?? 0
  // The first baseline stands 0.35 em below the middle of the first line.
  const top = at('y') - 0.35 * fontSize - (lineHeight * fontSize) / 2
  const placement = placed({ x: at('x') + start, y: top, width, height }, context)
  if (!placement || lines.length === 0) return null
  const nativeWidth = Math.max(1, Math.min(16384, Math.round(width)))
  const nativeHeight = Math.max(1, Math.min(16384, Math.round(height)))
  return {
    source: {
      name: nameOf(element, lines[0] as string),
      kind: 'text',
      nativeWidth,
      nativeHeight,
      appearance: {
        type: 'text',
        text: lines.join('\n').slice(0, 500),
        colour: plainColour(context.fill) ?? '#000000',
        font,
        weight,
        sizePixels: Math.min(1000, Math.max(4, fontSize)),
        wrap: false,
        band: false,
      },
    },
    placement,
    picture: null,
    keepsProportions: false,
  }
}

function boxOf(element: XmlElement, whole: Size) {
  return {
    x: length(attribute(element, 'x'), 0, whole.width),
    y: length(attribute(element, 'y'), 0, whole.height),
    width: length(attribute(element, 'width'), 0, whole.width),
    height: length(attribute(element, 'height'), 0, whole.height),
  }
}

class Reader {
  readonly items: SvgItem[] = []
  private readonly missed = new Map<string, number>()

  constructor(private readonly whole: Size) {}

  miss(what: string): void {
    this.missed.set(what, (this.missed.get(what) ?? 0) + 1)
  }

  notTaken(): string[] {
    return [...this.missed].map(([what, count]) => (count > 1 ? `${what} (${count} times)` : what))
  }

  private add(item: SvgItem | null, what: string): void {
    if (item) this.items.push(item)
    else this.miss(what)
  }

  read(element: XmlElement, from: Inherited): void {
    const own = element.getAttribute(ownAttribute)
    if (own === 'background') return
    const context = inherit(element, from)
    if (own !== null) return this.readOwn(element, own)
    const name = element.localName ?? ''
    if (attribute(element, 'display') === 'none' || drawnByOthers.has(name)) {
      if (name === 'style') this.miss('a style sheet')
      return
    }
    if (name === 'g' || name === 'a') return this.readChildren(element, context)
    if (name === 'svg') return this.readInner(element, context)
    if (name === 'image') return this.readImage(element, context)
    if (name === 'rect') return this.readRectangle(element, context)
    if (name === 'text')
      return this.add(textItem(element, context), 'a text that is empty or skewed')
    this.miss(`an element "${element.tagName}"`)
  }

  readChildren(element: XmlElement, context: Inherited): void {
    for (const child of Array.from(element.childNodes))
      if (child.nodeType === 1) this.read(child as XmlElement, context)
  }

  /** A nested svg moves and scales what is in it. */
  private readInner(element: XmlElement, context: Inherited): void {
    const box = boxOf(element, this.whole)
    const [x = 0, y = 0, width = box.width, height = box.height] = viewBoxOf(element) ?? []
    if (!(width > 0 && height > 0)) return this.readChildren(element, context)
    const matrix = compose(
      context.matrix,
      translate(box.x, box.y),
      box.width > 0 && box.height > 0 ? scale(box.width / width, box.height / height) : scale(1),
      translate(-x, -y),
    )
    this.readChildren(element, { ...context, matrix })
  }

  /** What we wrote ourselves says of itself what it is. */
  private readOwn(element: XmlElement, text: string): void {
    let value: unknown
    try {
      value = JSON.parse(text)
    } catch {
      value = undefined
    }
    const read = ownItem.safeParse(value)
    if (!read.success)
      return this.miss(`"${nameOf(element, 'a source')}", whose description is damaged`)
    const [image] = Array.from(element.getElementsByTagName('image'))
    const { source, placement } = read.data
    this.items.push({
      source,
      placement,
      picture: source.appearance.type === 'picture file' ? (image ? hrefOf(image) : null) : null,
      keepsProportions: false,
    })
  }

  private readImage(element: XmlElement, context: Inherited): void {
    const href = hrefOf(element)
    if (!/^data:image\/(png|jpeg|webp|svg\+xml)[;,]/i.test(href))
      return this.miss('an image that is not written into the file as PNG, JPEG, WebP or SVG')
    const placement = placed(boxOf(element, this.whole), context)
    const item: SvgItem | null = placement && {
      source: { name: nameOf(element, 'Picture'), kind: 'picture' },
      placement,
      picture: href,
      keepsProportions: element.getAttribute('preserveAspectRatio') !== 'none',
    }
    this.add(item, 'an image that is skewed or has no size')
  }

  private readRectangle(element: XmlElement, context: Inherited): void {
    const colour = context.fill === 'none' ? null : plainColour(context.fill)
    if (!colour) return this.miss('a rectangle without a plain colour')
    const opacity = context.opacity * length(attribute(element, 'fill-opacity'), 1, 1)
    const box = boxOf(element, this.whole)
    const placement = placed(box, { ...context, opacity })
    const across = Math.hypot(context.matrix.a, context.matrix.b)
    const radius =
      length(attribute(element, 'rx') ?? attribute(element, 'ry'), 0, box.width) * across
    const item: SvgItem | null = placement && {
      source: {
        name: nameOf(element, 'Colour'),
        kind: 'colour',
        nativeWidth: Math.max(1, Math.min(16384, Math.round(box.width))),
        nativeHeight: Math.max(1, Math.min(16384, Math.round(box.height))),
        appearance: { type: 'colour', colour },
      },
      placement: { ...placement, cornerRadius: Math.min(16384, Math.max(0, radius)) },
      picture: null,
      keepsProportions: false,
    }
    this.add(item, 'a rectangle that is skewed or has no size')
  }
}

const hrefOf = (element: XmlElement): string =>
  (element.getAttribute('href') ?? element.getAttribute('xlink:href') ?? '').trim()

function viewBoxOf(element: XmlElement): number[] | null {
  const numbers = (element.getAttribute('viewBox') ?? '')
    .trim()
    .split(/[\s,]+/)
    .map(Number)
  return numbers.length === 4 && numbers.every(Number.isFinite) ? numbers : null
}

/** Fits the drawing into the canvas, about the middle; a drawing of the canvas's size stays as it is. */
function ontoCanvas(root: XmlElement, canvas: Size): Matrix {
  const viewBox = viewBoxOf(root)
  const width = length(root.getAttribute('width'), viewBox?.[2] ?? canvas.width, canvas.width)
  const height = length(root.getAttribute('height'), viewBox?.[3] ?? canvas.height, canvas.height)
  const [x = 0, y = 0, boxWidth = width, boxHeight = height] = viewBox ?? []
  const factor = Math.min(canvas.width / boxWidth, canvas.height / boxHeight)
  if (!(factor > 0) || !Number.isFinite(factor)) return scale(1)
  return compose(
    translate((canvas.width - boxWidth * factor) / 2, (canvas.height - boxHeight * factor) / 2),
    scale(factor),
    translate(-x, -y),
  )
}

/**
 * Reads an SVG made of images, rectangles and text as placements on a canvas, front to back. Files of
 * ours come back as they were; from others what can't be taken is listed. Never throws.
 */
export function readCanvasSvg(text: string, canvas: Size): ReadSvgResult {
  if (text.length > canvasSvgLimitBytes)
    return { ok: false, message: `an SVG has at most ${canvasSvgLimitBytes / 1_000_000} MB` }
  if (/<!(DOCTYPE[^>]*\[|ENTITY)/i.test(text))
    return { ok: false, message: 'the SVG defines entities, which are not taken' }
  try {
    const stop = (message: string): never => {
      throw new SyntaxError(message)
    }
    const root = new DOMParser({ onError: (_level, message) => stop(message) }).parseFromString(
      text,
      'image/svg+xml',
    ).documentElement
    if (root?.localName !== 'svg') return { ok: false, message: 'this is not an SVG' }
    const reader = new Reader(canvas)
    reader.readChildren(root, {
      matrix: ontoCanvas(root, canvas),
      opacity: 1,
      fill: '#000000',
      fontSize: 16,
      fontFamily: '',
      fontWeight: '400',
      anchor: 'start',
    })
    return { ok: true, items: reader.items.toReversed(), notTaken: reader.notTaken() }
  } catch (error) {
    const [first] = (error as Error).message.split('\n')
    return { ok: false, message: `this is not a sound SVG: ${first}` }
  }
}

/** Fits a picture into the box it was given, in its own proportions and about the middle, as SVG's "meet" does. */
export function fittedInBox(placement: Placement, native: Size): Placement {
  const factor = Math.min(placement.width / native.width, placement.height / native.height)
  const [width, height] = [native.width * factor, native.height * factor]
  return {
    ...placement,
    width,
    height,
    x: placement.x + (placement.width - width) / 2,
    y: placement.y + (placement.height - height) / 2,
  }
}
