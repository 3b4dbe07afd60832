import { advised, boundOf } from './bounds'
import type { Bound, Finding } from './finding'
import { numberOf, numberPattern, rangePattern } from './numbers'
import type { Statement } from './statements'

const audioWords = /\b(?:audio|sound|aac|opus|mp3|stereo|mono|voice|music|mic(?:rophone)?)\b/gi
const videoWords =
  /\b(?:video|picture|h\.?\s?26[45]|avc|hevc|av1|resolution|fps|frames?|1080p?|720p?|1440p?|2160p?|4k|stream(?:ing)?)\b/gi

/** Whether a rate belongs to the sound: by the nearest word in its own clause, else by what was said last, else by its size. */
function isAudioRate(
  words: string,
  from: number,
  to: number,
  kbps: number,
  heading: string,
): boolean {
  const clauseStart = Math.max(
    ...[',', ';', '. ', '(', ' and ', ' + ', '/ '].map((mark) => {
      const at = words.lastIndexOf(mark, from - 1)
      return at < 0 ? 0 : at
    }),
  )
  const ends = [',', ';', '. ', ')', ' and ', ' + ']
    .map((mark) => words.indexOf(mark, to))
    .filter((at) => at >= 0)
  const clauseEnd = ends.length > 0 ? Math.min(...ends) : words.length
  // What includes the sound is no rate of the sound.
  const clause = words
    .slice(clauseStart, clauseEnd)
    .replace(/\b(?:incl(?:uding|\.)?|with|plus|and) (?:the )?(?:audio|sound)\b/i, '')
  const isIn = (pattern: RegExp, text: string): boolean =>
    text.search(new RegExp(pattern.source, 'i')) >= 0
  const inAudio = isIn(audioWords, clause)
  const inVideo = isIn(videoWords, clause)
  if (inAudio !== inVideo) return inAudio
  const lastOf = (pattern: RegExp): number =>
    [...words.slice(0, from).matchAll(pattern)].at(-1)?.index ?? -1
  const [sound, picture] = [lastOf(audioWords), lastOf(videoWords)]
  if (sound !== picture) return sound > picture
  const [headSound, headPicture] = [isIn(audioWords, heading), isIn(videoWords, heading)]
  if (headSound !== headPicture) return headSound
  return kbps <= 320
}

const kiloUnit = String.raw`k(?:ilo)?(?:b(?:it)?s?)?(?:\s?(?:/|p)\s?s(?:ec(?:ond)?)?|ps|\s?per\s?second)?`
const megaUnit = String.raw`m(?:ega)?(?:b(?:it)?s?)(?:\s?(?:/|p)\s?s(?:ec(?:ond)?)?|ps|\s?per\s?second)?`

/** Whether a second number is the other end of a range: "6000 kbps and 60 fps" is none. */
const isOtherEnd = (joint: string, unit: string | undefined, after: string): boolean =>
  unit !== undefined ||
  !(/and/i.test(joint) || /^\s*(?:fps|f\/s|frames?|k?hz|p\b|px|s\b|sec|%|x|×)/i.test(after))

/** "Up to 4000 at 720p, 6000 at 1080p": a limit that is said of the first is said of those after it. */
function withBoundsCarriedOn(found: readonly Finding[]): Finding[] {
  const carried = new Map<Finding['topic'], Bound>()
  return found.map((finding) => {
    if (finding.topic !== 'video bitrate' && finding.topic !== 'audio bitrate') return finding
    const before = carried.get(finding.topic)
    const bound = finding.bound === 'said' && before === 'most' ? before : finding.bound
    carried.set(finding.topic, bound)
    return { ...finding, bound }
  })
}

export function rateFindings({ words, heading }: Statement): Finding[] {
  const unitIn = /\(?\b(?:in )?(k|m)(?:ega|ilo)?b(?:it)?s?\s?(?:\/|p)\s?s/i
    .exec(heading)?.[1]
    ?.toLowerCase()
  const isOfRates =
    /bit\s?-?\s?rate|bandwidth|data rate/i.test(heading) || /bit\s?-?\s?rate/i.test(words)
  const rate = new RegExp(
    String.raw`(?<![\d.,:×x])(${numberPattern})\s*(?:(${kiloUnit}|${megaUnit}))?(?:(${rangePattern})(${numberPattern})\s*(${kiloUnit}|${megaUnit})?)?(?![\w])`,
    'gi',
  )
  const found: Finding[] = []
  for (const match of words.matchAll(rate)) {
    const [whole, first = '', firstUnit, joint = '', other, secondUnit] = match
    const second = isOtherEnd(joint, secondUnit, words.slice(match.index + whole.length))
      ? other
      : undefined
    const unit = secondUnit ?? firstUnit
    const isBare = !unit && unitIn !== undefined && isOfRates
    if (!unit && !isBare) continue
    if (unit && /^k$/i.test(unit) && !isOfRates) continue
    const scaleOf = (given: string | undefined): number =>
      (given ?? unitIn ?? 'k').toLowerCase().startsWith('m') ? 1000 : 1
    const from = match.index
    const to =
      from + (other !== undefined && second === undefined ? whole.lastIndexOf(joint) : whole.length)
    const before = words.slice(0, from)
    const after = words.slice(to)
    // Upload and line speeds are no limits of the rendition.
    if (
      /\b(?:upload|internet|connection|line)\b[^.]*$/i.test(before.slice(-60)) &&
      !/bit\s?-?rate/i.test(before.slice(-40))
    )
      continue
    const kbpsOf = (text: string, given: string | undefined): number => {
      const scale = scaleOf(given)
      return Math.round(numberOf(text, scale === 1) * scale)
    }
    const isAdvice = advised.test(`${heading} ${before}`)
    const values: { kbps: number; bound: Bound }[] =
      second !== undefined
        ? [
            { kbps: kbpsOf(first, firstUnit ?? secondUnit), bound: isAdvice ? 'advised' : 'least' },
            { kbps: kbpsOf(second, secondUnit), bound: isAdvice ? 'advised' : 'most' },
          ]
        : [{ kbps: kbpsOf(first, firstUnit), bound: boundOf(before, after, heading) }]
    for (const { kbps, bound } of values) {
      const isAudio = isAudioRate(words, from, to, kbps, heading)
      if (kbps > 0) found.push({ topic: isAudio ? 'audio bitrate' : 'video bitrate', kbps, bound })
    }
  }
  return withBoundsCarriedOn(found)
}
