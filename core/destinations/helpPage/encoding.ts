import type { Codec, EncodingProfile } from '../../show'
import { isDenied, most } from './bounds'
import type { Finding } from './finding'
import { numberOf, rangePattern, wordNumberOf, wordNumberPattern } from './numbers'
import type { Statement } from './statements'

export function keyframeFindings({ words, heading }: Statement): Finding[] {
  const about = /key\s?-?frame|\bgop\b|i-?frame|intra/i
  if (!about.test(`${heading} ${words}`)) return []
  const start = words.search(about)
  const part = start >= 0 ? words.slice(Math.max(0, start - 40)) : words
  const limit = new RegExp(
    String.raw`(?:${most.source})[^.;\d]{0,30}(\d+(?:[.,]\d+)?)\s*-?\s*(?:s\b|secs?\b|seconds?\b)`,
    'i',
  ).exec(part)?.[1]
  if (limit !== undefined) return [{ topic: 'keyframe interval', seconds: numberOf(limit) }]
  const seconds = new RegExp(
    String.raw`(?:(\d+(?:[.,]\d+)?|${wordNumberPattern})(?:${rangePattern}|\s*\/\s*))?(\d+(?:[.,]\d+)?|${wordNumberPattern})\s*-?\s*(?:s\b|sec\b|secs\b|seconds?\b)`,
    'i',
  ).exec(part)
  const valueOf = (text: string): number => {
    const word = wordNumberOf(text)
    return word >= 0 ? word : numberOf(text)
  }
  if (seconds?.[2] !== undefined)
    return [{ topic: 'keyframe interval', seconds: valueOf(seconds[2]) }]
  if (/every second\b|once (?:a|per|every) second/i.test(part))
    return [{ topic: 'keyframe interval', seconds: 1 }]
  const frames = /(\d{1,3})\s*frames?\b/i.exec(part.slice(part.search(about)))
  if (frames) return [{ topic: 'keyframe frames', frames: Number(frames[1]) }]
  const bare =
    /(?:interval|distance|spacing|size|length|frequency|max(?:imum)?)[^\d]{0,20}(\d{1,2}(?:\.\d+)?)(?!\d|\s*(?:k|fps))/i.exec(
      part,
    )
  if (bare) return [{ topic: 'keyframe interval', seconds: Number(bare[1]) }]
  const inHeading = about.test(heading) ? /^(\d{1,2}(?:\.\d+)?)$/.exec(words.trim()) : null
  return inHeading ? [{ topic: 'keyframe interval', seconds: Number(inHeading[1]) }] : []
}

export function bFrameFindings({ words, heading }: Statement): Finding[] {
  const about = /\bb\s?-?\s?frames?\b|bi-?directional frames?/i
  if (about.test(heading) && /^\W*(\d{1,2})\W*$/.test(words)) {
    return [{ topic: 'B-frames', count: Number(/\d+/.exec(words)?.[0]) }]
  }
  const match = about.exec(words)
  if (!match) return []
  const before = words.slice(Math.max(0, match.index - 40), match.index)
  const after = words.slice(match.index + match[0].length, match.index + match[0].length + 40)
  if (
    /\b(?:no|without|disable[ds]?|turn off|zero|avoid|not allow(?:ed)?)\W*(?:\w+\W+){0,2}$/i.test(
      before,
    ) ||
    /^\W*(?:are\s+|is\s+|must be\s+)?(?:none|off|disabled|not (?:allowed|supported)|0\b|unsupported|forbidden)/i.test(
      after,
    )
  )
    return [{ topic: 'B-frames', count: 0 }]
  const counted =
    new RegExp(
      String.raw`(?<![\d.])(\d{1,2}|${wordNumberPattern})\s*(?:consecutive|reference|successive)?\s*$`,
      'i',
    ).exec(before)?.[1] ??
    new RegExp(
      String.raw`^[^\d.;]{0,25}?(\d{1,2}|${wordNumberPattern})(?!\d|\s*(?:k|m|s\b|sec|fps))`,
      'i',
    ).exec(after)?.[1]
  if (counted === undefined) return []
  const word = wordNumberOf(counted)
  return [{ topic: 'B-frames', count: word >= 0 ? word : Number(counted) }]
}

const codecPatterns: [RegExp, Codec][] = [
  [/\bh\s?\.?\s?264\b|\bavc\b|\bx264\b|mpeg-?4 part 10/i, 'h264'],
  [/\bh\s?\.?\s?265\b|\bhevc\b|\bx265\b/i, 'hevc'],
  [/\bav1\b/i, 'av1'],
]
export function codecFindings({ words, heading }: Statement): Finding[] {
  const found: Finding[] = []
  let latest: Codec | null = null
  for (const [pattern, codec] of codecPatterns) {
    const match = pattern.exec(words)
    if (!match || isDenied(words, match.index, match[0].length)) continue
    found.push({ topic: 'codec', codec })
    latest ??= codec
  }
  const level =
    /\blevels?\b\W{0,3}(?:up to |of |is |at most |max(?:imum)? )?(\d(?:\.\d)?)(?!\d|\.\d)/i.exec(
      words,
    )?.[1] ??
    /\b(?:baseline|main|high)(?: profile)?\s*(?:@\s?l?|,?\s*l(?:evel)?\s?|\s)(\d\.\d)(?!\d|\s?(?:m|k)b)/i.exec(
      words,
    )?.[1] ??
    /@\s?l?(\d\.\d)\b/i.exec(words)?.[1] ??
    (/\blevel\b/i.test(heading) ? /^(\d(?:\.\d)?)\b/.exec(words.trim())?.[1] : undefined)
  if (level !== undefined)
    found.push({ topic: 'level', codec: latest, level: level.replace(/\.0$/, '') })
  const profile = /\b(baseline|main|high)\b(?=\s*(?:profile|@|\d|,|$|\)|\/|or|level))/i.exec(
    /profile|h\.?264|avc/i.test(`${heading} ${words}`) ? words : '',
  )?.[1]
  if (profile) found.push({ topic: 'profile', profile: profile.toLowerCase() as EncodingProfile })
  const control = /\b(?:(cbr|constant bit\s?-?rate)|(vbr|variable bit\s?-?rate))\b/i.exec(words)
  if (control) found.push({ topic: 'rate control', isConstant: control[1] !== undefined })
  return found
}
