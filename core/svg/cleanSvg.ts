import {
  type Attr as XmlAttribute,
  type Element as XmlElement,
  type Node as XmlNode,
  XMLSerializer,
} from '@xmldom/xmldom'
import { parseSvg } from './parseSvg'

/** Elements that draw, after SVG 2; scripts, links, animation, foreign content and the like are left out. */
const allowedElements = new Set([
  ...['svg', 'g', 'defs', 'symbol', 'use', 'title', 'desc', 'switch', 'view'],
  ...['rect', 'circle', 'ellipse', 'line', 'polyline', 'polygon', 'path', 'image'],
  ...['text', 'tspan', 'textPath'],
  ...['linearGradient', 'radialGradient', 'stop', 'pattern', 'clipPath', 'mask', 'marker'],
  ...[
    'filter',
    'feBlend',
    'feColorMatrix',
    'feComponentTransfer',
    'feComposite',
    'feConvolveMatrix',
  ],
  ...['feDiffuseLighting', 'feDisplacementMap', 'feDistantLight', 'feDropShadow', 'feFlood'],
  ...['feFuncA', 'feFuncB', 'feFuncG', 'feFuncR', 'feGaussianBlur', 'feMerge', 'feMergeNode'],
  ...['feMorphology', 'feOffset', 'fePointLight', 'feSpecularLighting', 'feSpotLight', 'feTile'],
  ...['feTurbulence', 'style'],
])

/** Addresses that stay inside the file: a part of it, or a raster picture written into it. */
const insideFile = /^\s*(#|data:image\/(png|jpeg|webp|gif);base64,)/i
/** What CSS loads by, or runs: an address that is no part of the file, an import, a picture from a set. */
const loadsInCss =
  /url\(\s*(?:['"]\s*)?[^\s'"#)]|@import|(?:image-set|cross-fade)\(|(?<![\w-])(?:image|src)\(|expression\s*\(|javascript:/i
const cssEscape = /\\(?:([0-9a-f]{1,6})\s?|([^0-9a-f\n]))/gi

/** A text as CSS reads it: `u\\72l` is `url`. */
const unescaped = (css: string): string =>
  css.replace(cssEscape, (_whole, code: string | undefined, plain: string | undefined) => {
    if (code === undefined) return plain ?? ''
    const point = Number.parseInt(code, 16)
    return point > 0 && point <= 0x10ffff ? String.fromCodePoint(point) : '\ufffd'
  })

const leadsOutside = (value: string): boolean =>
  loadsInCss.test(value) || (value.includes('\\') && loadsInCss.test(unescaped(value)))

const svgNamespace = 'http://www.w3.org/2000/svg'

export type CleanSvgResult =
  | { ok: true; svg: string; width: number; height: number; removed: string[] }
  | { ok: false; message: string }

function isAllowedAttribute(name: string, value: string): boolean {
  const local = name.includes(':') ? name.slice(name.indexOf(':') + 1) : name
  if (/^on/i.test(local)) return false
  if (local === 'href' || local === 'src') return insideFile.test(value)
  return !leadsOutside(value)
}

/** Whether a part of the file may stay; what goes is noted. Comments and processing instructions go without a word. */
function mayStay(node: XmlNode, removed: Set<string>): boolean {
  switch (node.nodeType) {
    case 1: {
      const element = node as XmlElement
      const stays =
        element.namespaceURI === svgNamespace &&
        allowedElements.has(element.localName ?? '') &&
        !(element.localName === 'style' && leadsOutside(element.textContent ?? ''))
      if (!stays) removed.add(`the element ${element.tagName}`)
      return stays
    }
    case 2: {
      const { name, value } = node as XmlAttribute
      const stays = isAllowedAttribute(name, value)
      if (!stays) removed.add(`the attribute ${name}`)
      return stays
    }
    default:
      // Text and CDATA.
      return node.nodeType === 3 || node.nodeType === 4
  }
}

/** A length in pixels; null for one in per cent or relative units, or none at all. */
function pixels(value: string | null): number | null {
  const match = /^\s*([\d.]+)(px)?\s*$/.exec(value ?? '')
  return match ? Number(match[1]) : null
}

/** The size that an SVG is drawn at: its width and height, else those of its view box, else 300×150 as in CSS. */
function sizeOf(root: XmlElement): { width: number; height: number } {
  const viewBox = (root.getAttribute('viewBox') ?? '')
    .trim()
    .split(/[\s,]+/)
    .map(Number)
  const [, , boxWidth = Number.NaN, boxHeight = Number.NaN] = viewBox
  const width = pixels(root.getAttribute('width'))
  const height = pixels(root.getAttribute('height'))
  const ratio = boxWidth / boxHeight
  if (width && height) return { width, height }
  if (width && ratio > 0) return { width, height: width / ratio }
  if (height && ratio > 0) return { width: height * ratio, height }
  return boxWidth > 0 && boxHeight > 0
    ? { width: boxWidth, height: boxHeight }
    : { width: 300, height: 150 }
}

/**
 * An SVG without anything that runs, loads or leads elsewhere: scripts, event attributes, foreign
 * content, addresses outside the file. What draws stays as it was. Gives its size in pixels, at
 * least one, and what was taken out. Never throws; what is no SVG is said.
 */
export function cleanSvg(text: string): CleanSvgResult {
  const parsed = parseSvg(text)
  if (!parsed.ok) return parsed
  const { root } = parsed
  if (root.namespaceURI !== svgNamespace) return { ok: false, message: 'this is not an SVG' }
  const { width, height } = sizeOf(root)
  if (!Number.isFinite(width) || !Number.isFinite(height))
    return { ok: false, message: 'the SVG has no size that can be drawn' }
  const removed = new Set<string>()
  // Left out as it is written: taking things out of the tree is quadratic in what stands beside them.
  const svg = new XMLSerializer().serializeToString(root, {
    nodeFilter: (node) => (mayStay(node, removed) ? node : null),
  })
  return {
    ok: true,
    svg,
    width: Math.max(1, Math.round(width)),
    height: Math.max(1, Math.round(height)),
    removed: [...removed],
  }
}
