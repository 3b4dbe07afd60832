import { type Element as XmlElement, type Node as XmlNode, XMLSerializer } from '@xmldom/xmldom'
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
const urlsOutside = /url\(\s*(['"]?)(?!\s*['"]?\s*#)[^)]*\)|@import|expression\s*\(|javascript:/i
const svgNamespace = 'http://www.w3.org/2000/svg'

export type CleanSvgResult =
  | { ok: true; svg: string; width: number; height: number; removed: string[] }
  | { ok: false; message: string }

function isAllowedAttribute(name: string, value: string): boolean {
  const local = name.includes(':') ? name.slice(name.indexOf(':') + 1) : name
  if (/^on/i.test(local)) return false
  if (local === 'href' || local === 'src') return insideFile.test(value)
  return !urlsOutside.test(value)
}

function clean(element: XmlElement, removed: Set<string>): void {
  for (const attribute of Array.from(element.attributes)) {
    if (isAllowedAttribute(attribute.name, attribute.value)) continue
    removed.add(`the attribute ${attribute.name}`)
    element.removeAttributeNode(attribute)
  }
  for (const child of Array.from(element.childNodes) as XmlNode[]) {
    // 3 and 4 are text and CDATA; comments and processing instructions go without a word.
    if (child.nodeType === 3 || child.nodeType === 4) continue
    const inner = child.nodeType === 1 ? (child as XmlElement) : undefined
    const isForeign = inner?.namespaceURI !== svgNamespace
    const isStyleOutside = inner?.localName === 'style' && urlsOutside.test(inner.textContent ?? '')
    if (inner && !isForeign && !isStyleOutside && allowedElements.has(inner.localName ?? '')) {
      clean(inner, removed)
      continue
    }
    if (inner) removed.add(`the element ${inner.tagName}`)
    element.removeChild(child)
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
  const removed = new Set<string>()
  clean(root, removed)
  const { width, height } = sizeOf(root)
  return {
    ok: true,
    svg: new XMLSerializer().serializeToString(root),
    width: Math.max(1, Math.round(width)),
    height: Math.max(1, Math.round(height)),
    removed: [...removed],
  }
}
