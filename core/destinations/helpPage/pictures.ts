import type { Size } from '../../show'
import { boundOf } from './bounds'
import type { Finding } from './finding'
import type { Statement } from './statements'

const namedSizes: Record<string, Size> = {
  '2160': { width: 3840, height: 2160 },
  '1440': { width: 2560, height: 1440 },
  '1080': { width: 1920, height: 1080 },
  '720': { width: 1280, height: 720 },
  '540': { width: 960, height: 540 },
  '480': { width: 854, height: 480 },
  '360': { width: 640, height: 360 },
  '240': { width: 426, height: 240 },
}
const spokenSizes: [RegExp, string][] = [
  [/\b(?:4k|uhd|ultra[ -]?hd)\b/gi, '2160'],
  [/\b(?:qhd|quad[ -]?hd|2k)\b/gi, '1440'],
  [/\b(?:full[ -]?hd|fhd)\b/gi, '1080'],
]

export function sizeFindings({ words, heading }: Statement): Finding[] {
  const found: { at: number; finding: Finding }[] = []
  const add = (at: number, length: number, size: Size, isNamedOnly: boolean): void => {
    const bound = boundOf(words.slice(0, at), words.slice(at + length), heading)
    found.push({ at, finding: { topic: 'size', size, bound, isNamedOnly } })
  }
  const pixels = /(?<![\d.])(\d{3,5})\s*(?:px|pixels)?\s*(?:x|×|\*|by)\s*(\d{3,5})(?!\d)/gi
  for (const match of words.matchAll(pixels)) {
    const [whole, width, height] = match
    const isThumbnail = /thumbnail|cover image|poster|logo|banner/i.test(
      `${heading} ${words.slice(Math.max(0, match.index - 40), match.index)}`,
    )
    if (!isThumbnail)
      add(match.index, whole.length, { width: Number(width), height: Number(height) }, false)
  }
  for (const match of words.matchAll(
    /\b(2160|1440|1080|720|540|480|360|240)\s?[pi](?:\s?\d{2,3})?(?![a-z])/gi,
  )) {
    // "1920x1080p" was read already.
    const isRead = /[x×*]\s*$/i.test(words.slice(0, match.index))
    const size = namedSizes[match[1] as string]
    if (!isRead && size) add(match.index, match[0].length, size, true)
  }
  for (const [pattern, name] of spokenSizes)
    for (const match of words.matchAll(pattern))
      add(match.index, match[0].length, namedSizes[name] as Size, true)
  return found.sort((a, b) => a.at - b.at).map(({ finding }) => finding)
}

export function frameRateFindings({ words, heading }: Statement): Finding[] {
  const found: Finding[] = []
  const list = new RegExp(
    String.raw`(?<![\d.,x×])((?:\d{2,3}(?:\.\d+)?)(?:\s*(?:,|\/|or|and|-|–|to)\s*\d{2,3}(?:\.\d+)?)*)\s*(?:fps|f\/s|frames?\s?(?:per|\/|a)\s?s(?:ec(?:ond)?)?\b|hz\b)`,
    'gi',
  )
  const push = (values: number[], before: string, after: string, isRange: boolean): void => {
    const rates = values.filter((value) => value >= 10 && value <= 240)
    const bound = boundOf(before, after, heading)
    rates.forEach((framesPerSecond, index) =>
      found.push({
        topic: 'frame rate',
        framesPerSecond: Math.round(framesPerSecond),
        bound: isRange
          ? index === 0
            ? 'least'
            : 'most'
          : rates.length > 1 && bound === 'said'
            ? 'only'
            : bound,
      }),
    )
  }
  for (const match of words.matchAll(list)) {
    const [whole, numbers = ''] = match
    if (/hz$/i.test(whole)) continue
    const values = [...numbers.matchAll(/\d+(?:\.\d+)?/g)].map(([value]) => Number(value))
    const isRange = values.length === 2 && /-|–|to/.test(numbers)
    push(values, words.slice(0, match.index), words.slice(match.index + whole.length), isRange)
  }
  for (const match of words.matchAll(
    /\b(?:2160|1440|1080|720|540|480|360|240)\s?p\s?@?\s?(\d{2,3})(?!\d|\s?(?:k|m|fps))/gi,
  ))
    push([Number(match[1])], '', '', false)
  // "Frame rate: 30", or a column of bare rates.
  if (
    found.length === 0 &&
    /frame\s?-?rate|\bfps\b|frames per second/i.test(`${heading} ${words}`)
  ) {
    const about = /frame\s?-?rate|\bfps\b|frames per second/i.test(heading)
      ? words
      : (/(?:frame\s?-?rate|fps)\b(.{0,40})/i.exec(words)?.[1] ?? '')
    const values = [
      ...about.matchAll(/(?<![\d.,x×])(\d{2,3}(?:\.\d+)?)(?![\d]|\s?(?:k|m|%|hz))/gi),
    ].map(([, value]) => Number(value))
    push(values.slice(0, 4), words, '', values.length === 2 && /\d\s*(?:-|–|to)\s*\d/.test(about))
  }
  return found
}
