import type { CountedIn } from '../show'

const segmenter = new Intl.Segmenter('en', { granularity: 'grapheme' })

/** How many bytes UTF-8 (RFC 3629) takes for one code point. */
function utf8Bytes(codePoint: number): number {
  if (codePoint < 0x80) return 1
  if (codePoint < 0x800) return 2
  return codePoint < 0x10000 ? 3 : 4
}

/** The length of a text as a destination counts it. Characters are what a reader sees as one (Unicode grapheme clusters). */
export function textLength(text: string, countedIn: CountedIn): number {
  switch (countedIn) {
    case 'characters':
      return [...segmenter.segment(text)].length
    case 'code points':
      return [...text].length
    case 'UTF-16 units':
      return text.length
    case 'UTF-8 bytes':
      return [...text].reduce((sum, letter) => sum + utf8Bytes(letter.codePointAt(0) ?? 0), 0)
  }
}
