import type { Element as XmlElement } from '@xmldom/xmldom'
import { estimateWidth, lineHeight } from '../canvas'
import { type TextAppearance, textFonts } from '../show'

import { attribute, type Inherited, length, nameOf, placed, plainColour } from './svgContext'
import type { SvgItem } from './svgItem'

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

/** A text as a source of words; null where it is empty or skewed. */
export function textItem(element: XmlElement, context: Inherited): SvgItem | null {
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
