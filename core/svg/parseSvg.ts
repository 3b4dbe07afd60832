import { DOMParser, type Element as XmlElement } from '@xmldom/xmldom'

export type ParseSvgResult = { ok: true; root: XmlElement } | { ok: false; message: string }

/** Entities could unfold into anything, and nothing that draws needs them. */
const definesEntities = /<!(DOCTYPE[^>]*\[|ENTITY)/i

/** Parses an SVG. Never throws; what is damaged, is no SVG or defines entities is said. */
export function parseSvg(text: string): ParseSvgResult {
  if (definesEntities.test(text))
    return { ok: false, message: 'the SVG defines entities, which are not taken' }
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
