import type { CountedIn } from '../show'

const segmenter = new Intl.Segmenter('en', { granularity: 'grapheme' })
/** Each segment that the segmenter gives carries a copy of all that it was given, so that it gets little at once. */
const pieceUnits = 256

/** Each of these letters is a cluster by itself, which is told much sooner. */
const isPlain = (text: string): boolean => /^[\n\x20-\x7e]*$/.test(text)

/** The clusters of the long texts that were counted last: every edit of a show asks for all of its texts again. */
const known = new Map<string, number>()
const maxKnown = 200

function clustersIn(text: string): number {
  if (isPlain(text)) return text.length
  if (text.length <= pieceUnits) return countedClusters(text)
  const before = known.get(text)
  if (before !== undefined) return before
  const count = countedClusters(text)
  if (known.size === maxKnown) known.clear()
  known.set(text, count)
  return count
}

const isHighSurrogate = (unit: number): boolean => unit >= 0xd800 && unit < 0xdc00

/**
 * Unicode grapheme clusters (UAX #29) of a text of any length, piece by piece. The last cluster of a
 * piece may go on after it, so that the next piece begins with it anew.
 */
function countedClusters(text: string): number {
  let count = 0
  for (let from = 0, units = pieceUnits; from < text.length;) {
    let end = Math.min(text.length, from + units)
    if (end < text.length && isHighSurrogate(text.charCodeAt(end - 1))) end += 1
    const starts = Array.from(segmenter.segment(text.slice(from, end)), ({ index }) => index)
    if (end === text.length) return count + starts.length
    const last = starts.at(-1) ?? 0
    count += starts.length - 1
    from += last
    // A single cluster that is longer than a piece.
    units = last === 0 ? units * 2 : pieceUnits
  }
  return count
}

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
      return clustersIn(text)
    case 'code points':
      return [...text].length
    case 'UTF-16 units':
      return text.length
    case 'UTF-8 bytes':
      return [...text].reduce((sum, letter) => sum + utf8Bytes(letter.codePointAt(0) ?? 0), 0)
  }
}
