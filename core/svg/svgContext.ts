import type { Element as XmlElement } from '@xmldom/xmldom'
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
import { type Placement, placementSchema, type Size } from '../show'

extend([names])

/** What an element of an SVG has from those around it. */
export interface Inherited {
  matrix: Matrix
  opacity: number
  fill: string
  fontSize: number
  fontFamily: string
  fontWeight: string
  anchor: string
}

/** Presentation attributes, those of `style` first. */
export function attribute(element: XmlElement, name: string): string | null {
  const style = element.getAttribute('style') ?? ''
  const declared = style
    .split(';')
    .map((declaration) => declaration.split(':'))
    .findLast(([key]) => key?.trim() === name)
  return declared?.slice(1).join(':').trim() ?? element.getAttribute(name)
}

/** A length in pixels; per cent are of the whole. */
export function length(value: string | null, otherwise: number, whole = 0): number {
  const match = /^\s*(-?[\d.]+(?:e[-+]?\d+)?)\s*(px|%|pt)?\s*$/i.exec(value ?? '')
  if (!match) return otherwise
  const read = Number(match[1])
  if (!Number.isFinite(read)) return otherwise
  // CSS: a point is 4/3 of a pixel.
  return match[2] === '%' ? (read / 100) * whole : match[2] === 'pt' ? (read * 4) / 3 : read
}

/** What the children of an element have from it. */
export function inherit(element: XmlElement, from: Inherited): Inherited {
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
export function placed(
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

/** A colour as #rrggbb, whatever the notation; null for what is no plain colour. */
export function plainColour(fill: string): string | null {
  const colour = colord(fill)
  return colour.isValid() ? colour.alpha(1).toHex() : null
}

/** What an element is called: its title, its identifier, or something else. */
export function nameOf(element: XmlElement, otherwise: string): string {
  const title = Array.from(element.childNodes).find(
    (child) => (child as XmlElement).localName === 'title',
  )
  return (title?.textContent?.trim() || element.getAttribute('id') || otherwise).slice(0, 190)
}

/** Where a rectangle, an image or a nested svg stands, in its own units. */
export function boxOf(element: XmlElement, whole: Size) {
  return {
    x: length(attribute(element, 'x'), 0, whole.width),
    y: length(attribute(element, 'y'), 0, whole.height),
    width: length(attribute(element, 'width'), 0, whole.width),
    height: length(attribute(element, 'height'), 0, whole.height),
  }
}

/** The four numbers of a view box; null where there is none. */
export function viewBoxOf(element: XmlElement): number[] | null {
  const numbers = (element.getAttribute('viewBox') ?? '')
    .trim()
    .split(/[\s,]+/)
    .map(Number)
  return numbers.length === 4 && numbers.every(Number.isFinite) ? numbers : null
}

/** Fits the drawing into the canvas, about the middle; a drawing of the canvas's size stays as it is. */
export function ontoCanvas(root: XmlElement, canvas: Size): Matrix {
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
