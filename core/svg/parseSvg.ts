import { DOMParser, type Element as XmlElement } from '@xmldom/xmldom'

export type ParseSvgResult = { ok: true; root: XmlElement } | { ok: false; message: string }

/** More than any drawing needs that a person made; what is refused is told which of them it goes beyond. */
const svgLimits = { elements: 20_000, depth: 256, attributeCharacters: 3_000_000 } as const

/** Entities could unfold into anything, and nothing that draws needs them. */
function definesEntities(text: string): boolean {
  if (/<!ENTITY/i.test(text)) return true
  const from = text.search(/<!DOCTYPE/i)
  return from >= 0 && text.slice(from, text.indexOf('>', from) + 1 || undefined).includes('[')
}

/** What of a text goes beyond the limits, told before it is parsed; null where nothing does. */
function beyondLimits(text: string): string | null {
  let [elements, depth, from] = [0, 0, 0]
  for (let at = text.indexOf('<'); at >= 0; at = text.indexOf('<', at + 1)) {
    if (at - from > svgLimits.attributeCharacters)
      return `it has over ${svgLimits.attributeCharacters} characters in one piece`
    from = at
    const next = text[at + 1]
    if (next === '!' || next === '?') continue
    if (next === '/') {
      depth -= 1
      continue
    }
    elements += 1
    depth += 1
    const end = text.indexOf('>', at)
    if (end < 0 || text[end - 1] === '/') depth -= 1
    if (elements > svgLimits.elements) return `it has over ${svgLimits.elements} elements`
    if (depth > svgLimits.depth) return `it is nested over ${svgLimits.depth} deep`
  }
  return null
}

/** Parses an SVG. Never throws; what is damaged, is no SVG or defines entities is said. */
export function parseSvg(text: string): ParseSvgResult {
  if (definesEntities(text))
    return { ok: false, message: 'the SVG defines entities, which are not taken' }
  const beyond = beyondLimits(text)
  if (beyond) return { ok: false, message: `the SVG is too much to be drawn: ${beyond}` }
  try {
    const onError = (level: string, message: string): void => {
      // A warning is about what can be read all the same, such as an odd character.
      if (level !== 'warning') throw new SyntaxError(message)
    }
    const root = new DOMParser({ onError }).parseFromString(text, 'image/svg+xml').documentElement
    return root?.localName === 'svg'
      ? { ok: true, root }
      : { ok: false, message: 'this is not an SVG' }
  } catch (error) {
    const [first] = (error as Error).message.split('\n')
    return { ok: false, message: `this is not a sound SVG: ${first}` }
  }
}
