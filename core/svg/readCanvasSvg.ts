import type { Element as XmlElement } from '@xmldom/xmldom'
import { compose, scale, translate } from 'transformation-matrix'
import { z } from 'zod'
import { placementSchema, type Size, sourceSchema } from '../show'
import { parseSvg } from './parseSvg'
import {
  attribute,
  boxOf,
  type Inherited,
  inherit,
  length,
  nameOf,
  ontoCanvas,
  placed,
  plainColour,
  viewBoxOf,
} from './svgContext'
import { canvasSvgLimitBytes, type SvgItem } from './svgItem'
import { textItem } from './svgText'
import { ownAttribute } from './writeCanvasSvg'

export type ReadSvgResult =
  | {
      ok: true
      /** Front to back. */
      items: SvgItem[]
      /** What could not be taken, in words. */
      notTaken: string[]
    }
  | { ok: false; message: string }

const ownItem = z.object({ source: sourceSchema, placement: placementSchema })
const drawnByOthers = new Set(['title', 'desc', 'metadata', 'defs', 'style', 'clipPath', 'mask'])

/** What an element turned out to be: things to place, back to front, and things that can't be. */
interface Found {
  items: SvgItem[]
  missed: string[]
}

const item = (found: SvgItem | null, otherwise: string): Found =>
  found ? { items: [found], missed: [] } : missed(otherwise)
const missed = (what: string): Found => ({ items: [], missed: [what] })
const nothing: Found = { items: [], missed: [] }

const together = (all: readonly Found[]): Found => ({
  items: all.flatMap(({ items }) => items),
  missed: all.flatMap((found) => found.missed),
})

const hrefOf = (element: XmlElement): string =>
  (element.getAttribute('href') ?? element.getAttribute('xlink:href') ?? '').trim()

function readElement(element: XmlElement, from: Inherited, whole: Size): Found {
  const own = element.getAttribute(ownAttribute)
  if (own === 'background') return nothing
  if (own !== null) return readOwn(element, own)
  const context = inherit(element, from)
  const name = element.localName ?? ''
  if (name === 'style') return missed('a style sheet')
  if (attribute(element, 'display') === 'none' || drawnByOthers.has(name)) return nothing
  switch (name) {
    case 'g':
    case 'a':
      return readChildren(element, context, whole)
    case 'svg':
      return readInner(element, context, whole)
    case 'image':
      return readImage(element, context, whole)
    case 'rect':
      return readRectangle(element, context, whole)
    case 'text':
      return item(textItem(element, context), 'a text that is empty or skewed')
    default:
      return missed(`an element "${element.tagName}"`)
  }
}

function readChildren(element: XmlElement, context: Inherited, whole: Size): Found {
  const children = Array.from(element.childNodes).filter(({ nodeType }) => nodeType === 1)
  return together(children.map((child) => readElement(child as XmlElement, context, whole)))
}

/** A nested svg moves and scales what is in it. */
function readInner(element: XmlElement, context: Inherited, whole: Size): Found {
  const box = boxOf(element, whole)
  const [x = 0, y = 0, width = box.width, height = box.height] = viewBoxOf(element) ?? []
  if (!(width > 0 && height > 0)) return readChildren(element, context, whole)
  const matrix = compose(
    context.matrix,
    translate(box.x, box.y),
    box.width > 0 && box.height > 0 ? scale(box.width / width, box.height / height) : scale(1),
    translate(-x, -y),
  )
  return readChildren(element, { ...context, matrix }, whole)
}

function parsedJson(text: string): unknown {
  try {
    return JSON.parse(text)
  } catch {
    return undefined
  }
}

/** What we wrote ourselves says of itself what it is. */
function readOwn(element: XmlElement, text: string): Found {
  const read = ownItem.safeParse(parsedJson(text))
  if (!read.success) return missed(`"${nameOf(element, 'a source')}", whose description is damaged`)
  const { source, placement } = read.data
  const [image] = Array.from(element.getElementsByTagName('image'))
  const isOwnFile = source.appearance.type === 'picture file'
  const picture = isOwnFile && image ? hrefOf(image) : null
  return item({ source, placement, picture, keepsProportions: false }, '')
}

function readImage(element: XmlElement, context: Inherited, whole: Size): Found {
  const picture = hrefOf(element)
  if (!/^data:image\/(png|jpeg|webp|svg\+xml)[;,]/i.test(picture))
    return missed('an image that is not written into the file as PNG, JPEG, WebP or SVG')
  const placement = placed(boxOf(element, whole), context)
  return item(
    placement && {
      source: { name: nameOf(element, 'Picture'), kind: 'picture' },
      placement,
      picture,
      keepsProportions: element.getAttribute('preserveAspectRatio') !== 'none',
    },
    'an image that is skewed or has no size',
  )
}

/** A side that a source may have. */
const nativeSide = (pixels: number): number => Math.max(1, Math.min(16384, Math.round(pixels)))

function readRectangle(element: XmlElement, context: Inherited, whole: Size): Found {
  const colour = context.fill === 'none' ? null : plainColour(context.fill)
  if (!colour) return missed('a rectangle without a plain colour')
  const opacity = context.opacity * length(attribute(element, 'fill-opacity'), 1, 1)
  const box = boxOf(element, whole)
  const placement = placed(box, { ...context, opacity })
  const across = Math.hypot(context.matrix.a, context.matrix.b)
  const radius = length(attribute(element, 'rx') ?? attribute(element, 'ry'), 0, box.width) * across
  return item(
    placement && {
      source: {
        name: nameOf(element, 'Colour'),
        kind: 'colour',
        nativeWidth: nativeSide(box.width),
        nativeHeight: nativeSide(box.height),
        appearance: { type: 'colour', colour },
      },
      placement: { ...placement, cornerRadius: Math.min(16384, Math.max(0, radius)) },
      picture: null,
      keepsProportions: false,
    },
    'a rectangle that is skewed or has no size',
  )
}

/** What CSS and SVG begin with. */
const initial = {
  opacity: 1,
  fill: '#000000',
  fontSize: 16,
  fontFamily: '',
  fontWeight: '400',
  anchor: 'start',
} as const

/** "a, a, b" → "a (2 times)", "b". */
function counted(list: readonly string[]): string[] {
  const counts = new Map<string, number>()
  for (const what of list) counts.set(what, (counts.get(what) ?? 0) + 1)
  return [...counts].map(([what, count]) => (count > 1 ? `${what} (${count} times)` : what))
}

/**
 * Reads an SVG made of images, rectangles and text as placements on a canvas, front to back. Files of
 * ours come back as they were; from others what can't be taken is listed. Never throws.
 */
export function readCanvasSvg(text: string, canvas: Size): ReadSvgResult {
  if (text.length > canvasSvgLimitBytes)
    return { ok: false, message: `an SVG has at most ${canvasSvgLimitBytes / 1_000_000} MB` }
  const parsed = parseSvg(text)
  if (!parsed.ok) return parsed
  try {
    const { root } = parsed
    const found = readChildren(root, { ...initial, matrix: ontoCanvas(root, canvas) }, canvas)
    return { ok: true, items: found.items.toReversed(), notTaken: counted(found.missed) }
  } catch (error) {
    // A transform that is none, for example.
    const [first] = (error as Error).message.split('\n')
    return { ok: false, message: `the SVG cannot be followed: ${first}` }
  }
}
