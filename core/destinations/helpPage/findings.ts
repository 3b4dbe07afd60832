import type { AudioCodec, Codec, EncodingProfile, Protocol, Rules, Size } from '../../show'
import { addressProblem } from '../../show'
import {
  numberOf,
  numberPattern,
  rangePattern,
  wordNumberOf,
  wordNumberPattern,
} from './numbers'
import type { Statement } from './statements'

/** Whether a value is a most, a least, the only one, or only advised. */
export type Bound = 'most' | 'least' | 'only' | 'advised' | 'said'

/** One thing that a statement says of the rules, as it was understood. */
export type Finding =
  | { topic: 'size'; size: Size; bound: Bound; isNamedOnly: boolean }
  | { topic: 'frame rate'; framesPerSecond: number; bound: Bound }
  | { topic: 'video bitrate'; kbps: number; bound: Bound }
  | { topic: 'audio bitrate'; kbps: number; bound: Bound }
  | { topic: 'keyframe interval'; seconds: number }
  | { topic: 'keyframe frames'; frames: number }
  | { topic: 'B-frames'; count: number }
  | { topic: 'codec'; codec: Codec }
  | { topic: 'level'; codec: Codec | null; level: string }
  | { topic: 'profile'; profile: EncodingProfile }
  | { topic: 'rate control'; isConstant: boolean }
  | { topic: 'audio codec'; codec: AudioCodec }
  | { topic: 'sample rate'; hertz: number }
  | { topic: 'channels'; channels: 1 | 2 }
  | { topic: 'protocol'; protocol: Protocol }
  | { topic: 'address'; address: string; protocol: Protocol; isBackup: boolean }
  | { topic: 'key life'; life: Rules['key']['life'] }
  | { topic: 'key hours'; hours: number }
  | { topic: 'start'; start: Rules['start'] }
  | { topic: 'renditions'; count: number }
  | { topic: 'backup'; offers: boolean }

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

const most =
  /\b(?:up to|max(?:imum|imal|\.)?|at most|no (?:more|higher|longer|larger|greater) than|not (?:exceed|go over|above|more than|higher than)|(?:don['’]t|do not|never|must not|cannot|can['’]t) (?:exceed|go (?:over|above|beyond))|exceed(?:s|ing)?|limit(?:ed)?(?: to| of| is)?|cap(?:ped)?(?: at)?|or (?:less|lower|below|under|fewer)|below|under|less than|not over|highest|largest|ceiling|upper)\b|[≤<]|\bor less\b/i
const least =
  /\b(?:min(?:imum|imal|\.)?|at least|no (?:less|lower|fewer) than|not (?:below|under|less than|lower than)|or (?:more|higher|above|faster)|lowest|from|above|over|starting (?:at|from)|lower bound)\b|[≥>]/i
const only =
  /\b(?:only|must be|has to be|exactly|fixed|locked|either|required|always|nothing else|no other)\b/i
const advised = /\b(?:recommend(?:ed|ation|s)?|suggest(?:ed|s)?|ideal(?:ly)?|best|typical(?:ly)?|preferred|prefer|target|aim|usual(?:ly)?|default)\b/i

/** What the words right before and after a value make of it; the nearest to it counts, then the heading. */
function boundOf(before: string, after: string, heading: string): Bound {
  if (/^\s*(?:,\s*)?(?:\(?\s*)?(?:or (?:less|lower|below|under|fewer)|max(?:imum|\.)?\b|at most|tops|is the (?:most|limit|max))/i.test(after))
    return 'most'
  if (/^\s*(?:,\s*)?\(?\s*(?:or (?:more|higher|above)|min(?:imum|\.)?\b|at least|is the (?:least|minimum))/i.test(after))
    return 'least'
  if (/^\s*\(?\s*only\b/i.test(after)) return 'only'
  const near = before.slice(-70)
  const at = (pattern: RegExp): number => {
    const all = [...near.matchAll(new RegExp(pattern.source, 'gi'))]
    return all.at(-1)?.index ?? -1
  }
  const found = (
    [
      ['most', at(most)],
      ['least', at(least)],
      ['only', at(only)],
      ['advised', at(advised)],
    ] as [Bound, number][]
  ).filter(([, index]) => index >= 0)
  const [nearest] = found.sort((a, b) => b[1] - a[1])
  // "Not below" and "no less than" hold the word that alone would mean the opposite.
  if (nearest) {
    if (/\b(?:no|not|never)\s+(?:less|lower|fewer|below|under)\b[^\d]*$/i.test(near)) return 'least'
    return nearest[0]
  }
  if (most.test(heading)) return 'most'
  if (least.test(heading)) return 'least'
  if (advised.test(heading)) return 'advised'
  if (only.test(heading)) return 'only'
  return 'said'
}

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
  const clauseStart = Math.max(...[',', ';', '(', ' and ', ' + ', '/ '].map((mark) => {
    const at = words.lastIndexOf(mark, from - 1)
    return at < 0 ? 0 : at
  }))
  const ends = [',', ';', ')', ' and ', ' + '].map((mark) => words.indexOf(mark, to)).filter((at) => at >= 0)
  const clauseEnd = ends.length > 0 ? Math.min(...ends) : words.length
  const clause = words.slice(clauseStart, clauseEnd)
  const isIn = (pattern: RegExp, text: string): boolean => text.search(new RegExp(pattern.source, 'i')) >= 0
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

function rateFindings({ words, heading }: Statement): Finding[] {
  const unitIn = /\(?\b(?:in )?(k|m)(?:ega|ilo)?b(?:it)?s?\s?(?:\/|p)\s?s/i.exec(heading)?.[1]?.toLowerCase()
  const isOfRates = /bit\s?-?\s?rate|bandwidth|data rate/i.test(heading) || /bit\s?-?\s?rate/i.test(words)
  const rate = new RegExp(
    String.raw`(?<![\d.,:×x])(${numberPattern})\s*(?:(${kiloUnit}|${megaUnit}))?(?:(${rangePattern})(${numberPattern})\s*(${kiloUnit}|${megaUnit}))?(?![\w])`,
    'gi',
  )
  const found: Finding[] = []
  for (const match of words.matchAll(rate)) {
    const [whole, first = '', firstUnit, , second, secondUnit] = match
    const unit = secondUnit ?? firstUnit
    const isBare = !unit && unitIn !== undefined && isOfRates
    if (!unit && !isBare) continue
    if (unit && /^k$/i.test(unit) && !isOfRates) continue
    const scaleOf = (given: string | undefined): number =>
      (given ?? unitIn ?? 'k').toLowerCase().startsWith('m') ? 1000 : 1
    const from = match.index
    const to = from + whole.length
    const before = words.slice(0, from)
    const after = words.slice(to)
    // Upload and line speeds are no limits of the rendition.
    if (/\b(?:upload|internet|connection|line)\b[^.]*$/i.test(before.slice(-60)) && !/bit\s?-?rate/i.test(before.slice(-40)))
      continue
    const kbpsOf = (text: string, given: string | undefined): number => {
      const scale = scaleOf(given)
      return Math.round(numberOf(text, scale === 1) * scale)
    }
    const values: { kbps: number; bound: Bound }[] =
      second !== undefined
        ? [
            { kbps: kbpsOf(first, firstUnit ?? secondUnit), bound: 'least' },
            { kbps: kbpsOf(second, secondUnit), bound: 'most' },
          ]
        : [{ kbps: kbpsOf(first, firstUnit), bound: boundOf(before, after, heading) }]
    for (const { kbps, bound } of values) {
      const isAudio = isAudioRate(words, from, to, kbps, heading)
      if (kbps > 0) found.push({ topic: isAudio ? 'audio bitrate' : 'video bitrate', kbps, bound })
    }
  }
  return found
}

function sizeFindings({ words, heading }: Statement): Finding[] {
  const found: { at: number; finding: Finding }[] = []
  const add = (at: number, length: number, size: Size, isNamedOnly: boolean): void => {
    const bound = boundOf(words.slice(0, at), words.slice(at + length), heading)
    found.push({ at, finding: { topic: 'size', size, bound, isNamedOnly } })
  }
  const pixels = /(?<![\d.])(\d{3,5})\s*(?:px|pixels)?\s*(?:x|×|\*|by)\s*(\d{3,5})(?!\d)/gi
  for (const match of words.matchAll(pixels)) {
    const [whole, width, height] = match
    const isThumbnail = /thumbnail|cover image|poster|logo|banner/i.test(`${heading} ${words.slice(Math.max(0, match.index - 40), match.index)}`)
    if (!isThumbnail) add(match.index, whole.length, { width: Number(width), height: Number(height) }, false)
  }
  for (const match of words.matchAll(/\b(2160|1440|1080|720|540|480|360|240)\s?[pi](?:\s?\d{2,3})?(?![a-z])/gi)) {
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

function frameRateFindings({ words, heading }: Statement): Finding[] {
  const found: Finding[] = []
  const unit = String.raw`(?:fps|f\/s|frames?\s?(?:per|\/|a)\s?s(?:ec(?:ond)?)?\b|p\b)`
  const list = new RegExp(
    String.raw`(?<![\d.,x×])((?:\d{2,3}(?:\.\d+)?)(?:\s*(?:,|\/|or|and|-|–|to)\s*\d{2,3}(?:\.\d+)?)*)\s*(?:fps|f\/s|frames?\s?(?:per|\/|a)\s?s(?:ec(?:ond)?)?\b|hz\b)`,
    'gi',
  )
  void unit
  const push = (values: number[], before: string, after: string, isRange: boolean): void => {
    const rates = values.filter((value) => value >= 10 && value <= 240)
    const bound = boundOf(before, after, heading)
    rates.forEach((framesPerSecond, index) =>
      found.push({
        topic: 'frame rate',
        framesPerSecond: Math.round(framesPerSecond),
        bound: isRange ? (index === 0 ? 'least' : 'most') : rates.length > 1 && bound === 'said' ? 'only' : bound,
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
  for (const match of words.matchAll(/\b(?:2160|1440|1080|720|540|480|360|240)\s?p\s?@?\s?(\d{2,3})(?!\d|\s?(?:k|m|fps))/gi))
    push([Number(match[1])], '', '', false)
  // "Frame rate: 30", or a column of bare rates.
  if (found.length === 0 && /frame\s?-?rate|\bfps\b|frames per second/i.test(`${heading} ${words}`)) {
    const about = /frame\s?-?rate|\bfps\b|frames per second/i.test(heading) ? words : (/(?:frame\s?-?rate|fps)\b(.{0,40})/i.exec(words)?.[1] ?? '')
    const values = [...about.matchAll(/(?<![\d.,x×])(\d{2,3}(?:\.\d+)?)(?![\d]|\s?(?:k|m|%|hz))/gi)].map(([, value]) => Number(value))
    push(values.slice(0, 4), words, '', values.length === 2 && /\d\s*(?:-|–|to)\s*\d/.test(about))
  }
  return found
}

function keyframeFindings({ words, heading }: Statement): Finding[] {
  const about = /key\s?-?frame|\bgop\b|i-?frame|intra/i
  if (!about.test(`${heading} ${words}`)) return []
  const start = words.search(about)
  const part = start >= 0 ? words.slice(Math.max(0, start - 40)) : words
  const seconds = new RegExp(
    String.raw`(?:(\d+(?:[.,]\d+)?|${wordNumberPattern})(?:${rangePattern}|\s*\/\s*))?(\d+(?:[.,]\d+)?|${wordNumberPattern})\s*-?\s*(?:s\b|sec\b|secs\b|seconds?\b)`,
    'i',
  ).exec(part)
  const valueOf = (text: string): number => {
    const word = wordNumberOf(text)
    return word >= 0 ? word : numberOf(text)
  }
  if (seconds?.[2] !== undefined) return [{ topic: 'keyframe interval', seconds: valueOf(seconds[2]) }]
  if (/every second\b|once (?:a|per|every) second/i.test(part)) return [{ topic: 'keyframe interval', seconds: 1 }]
  const frames = /(\d{1,3})\s*frames?\b/i.exec(part.slice(part.search(about)))
  if (frames) return [{ topic: 'keyframe frames', frames: Number(frames[1]) }]
  const bare = /(?:interval|distance|spacing|size|length|frequency|max(?:imum)?)[^\d]{0,20}(\d{1,2}(?:\.\d+)?)(?!\d|\s*(?:k|fps))/i.exec(part)
  if (bare) return [{ topic: 'keyframe interval', seconds: Number(bare[1]) }]
  const inHeading = about.test(heading) ? /^(\d{1,2}(?:\.\d+)?)$/.exec(words.trim()) : null
  return inHeading ? [{ topic: 'keyframe interval', seconds: Number(inHeading[1]) }] : []
}

function bFrameFindings({ words, heading }: Statement): Finding[] {
  const about = /\bb\s?-?\s?frames?\b|bi-?directional frames?/i
  if (about.test(heading) && /^\W*(\d{1,2})\W*$/.test(words)) {
    return [{ topic: 'B-frames', count: Number(/\d+/.exec(words)?.[0]) }]
  }
  const match = about.exec(words)
  if (!match) return []
  const before = words.slice(Math.max(0, match.index - 40), match.index)
  const after = words.slice(match.index + match[0].length, match.index + match[0].length + 40)
  if (/\b(?:no|without|disable[ds]?|turn off|zero|avoid|not allow(?:ed)?)\W*(?:\w+\W+){0,2}$/i.test(before) || /^\W*(?:are\s+|is\s+|must be\s+)?(?:none|off|disabled|not (?:allowed|supported)|0\b|unsupported|forbidden)/i.test(after))
    return [{ topic: 'B-frames', count: 0 }]
  const counted =
    new RegExp(String.raw`(?<![\d.])(\d{1,2}|${wordNumberPattern})\s*(?:consecutive|reference|successive)?\s*$`, 'i').exec(before)?.[1] ??
    new RegExp(String.raw`^[^\d.;]{0,25}?(\d{1,2}|${wordNumberPattern})(?!\d|\s*(?:k|m|s\b|sec|fps))`, 'i').exec(after)?.[1]
  if (counted === undefined) return []
  const word = wordNumberOf(counted)
  return [{ topic: 'B-frames', count: word >= 0 ? word : Number(counted) }]
}

const codecPatterns: [RegExp, Codec][] = [
  [/\bh\s?\.?\s?264\b|\bavc\b|\bx264\b|mpeg-?4 part 10/i, 'h264'],
  [/\bh\s?\.?\s?265\b|\bhevc\b|\bx265\b/i, 'hevc'],
  [/\bav1\b/i, 'av1'],
]
const isDenied = (words: string, at: number, length: number): boolean =>
  /\b(?:no|not|without|isn['’]t|except|neither|nor)\W*(?:\w+\W+){0,2}$/i.test(words.slice(Math.max(0, at - 30), at)) ||
  /^[^.;,]{0,20}\b(?:not (?:supported|accepted|allowed|available|taken|yet)|unsupported|isn['’]t|aren['’]t|won['’]t|rejected)\b/i.test(words.slice(at + length))

function codecFindings({ words, heading }: Statement): Finding[] {
  const found: Finding[] = []
  let latest: Codec | null = null
  for (const [pattern, codec] of codecPatterns) {
    const match = pattern.exec(words)
    if (!match || isDenied(words, match.index, match[0].length)) continue
    found.push({ topic: 'codec', codec })
    latest ??= codec
  }
  const level =
    /\blevels?\b\W{0,3}(?:up to |of |is |at most |max(?:imum)? )?(\d(?:\.\d)?)(?!\d|\.\d)/i.exec(words)?.[1] ??
    /\b(?:baseline|main|high)(?: profile)?\s*(?:@\s?l?|,?\s*l(?:evel)?\s?|\s)(\d\.\d)(?!\d|\s?(?:m|k)b)/i.exec(words)?.[1] ??
    /@\s?l?(\d\.\d)\b/i.exec(words)?.[1] ??
    (/\blevel\b/i.test(heading) ? /^(\d(?:\.\d)?)\b/.exec(words.trim())?.[1] : undefined)
  if (level !== undefined) found.push({ topic: 'level', codec: latest, level: level.replace(/\.0$/, '') })
  const profile = /\b(baseline|main|high)\b(?=\s*(?:profile|@|\d|,|$|\)|\/|or|level))/i.exec(
    /profile|h\.?264|avc/i.test(`${heading} ${words}`) ? words : '',
  )?.[1]
  if (profile) found.push({ topic: 'profile', profile: profile.toLowerCase() as EncodingProfile })
  const control = /\b(?:(cbr|constant bit\s?-?rate)|(vbr|variable bit\s?-?rate))\b/i.exec(words)
  if (control) found.push({ topic: 'rate control', isConstant: control[1] !== undefined })
  return found
}

function audioFindings({ words, heading }: Statement): Finding[] {
  const found: Finding[] = []
  for (const [pattern, codec] of [
    [/\b(?:he-|lc-)?aac(?:-lc|-he)?\b/i, 'aac'],
    [/\bopus\b/i, 'opus'],
  ] as [RegExp, AudioCodec][]) {
    const match = pattern.exec(words)
    if (match && !isDenied(words, match.index, match[0].length)) found.push({ topic: 'audio codec', codec })
  }
  const kilohertz = /(?<![\d.])(44[.,]1|48)(?:[.,]0)?(?=\s*(?:k\s?hz|k\b|\/|or|and|,)[^;]{0,12}(?:k?\s?hz|k\b)|\s*k\s?hz)/gi
  for (const [, value = ''] of words.matchAll(kilohertz)) found.push({ topic: 'sample rate', hertz: numberOf(value) * 1000 })
  for (const [, value = ''] of words.matchAll(/(?<!\d)(44[,. ]?100|48[,. ]?000)\s*(?:hz|samples)/gi))
    found.push({ topic: 'sample rate', hertz: Number(value.replaceAll(/\D/g, '')) })
  if (/sampl\w+ (?:rate|frequency)/i.test(`${heading} ${words}`) && !found.some(({ topic }) => topic === 'sample rate'))
    for (const [, value = ''] of words.matchAll(/(?<![\d.])(44[,. ]?100|48[,. ]?000|44\.1|48)(?!\d)/g)) {
      const number = Number(value.replaceAll(/[, ]/g, ''))
      found.push({ topic: 'sample rate', hertz: number < 1000 ? (number > 100 ? number : number * 1000) : number })
    }
  if (/\bstereo\b|\b(?:2|two)[ -]channels?\b|\b2\.0\b(?=.*channel)/i.test(words)) found.push({ topic: 'channels', channels: 2 })
  else if (/\bmono(?:phonic)?\b|\b(?:1|one|single)[ -]channel\b/i.test(words)) found.push({ topic: 'channels', channels: 1 })
  return found
}

function addressFindings({ words, heading }: Statement): Finding[] {
  const found: Finding[] = []
  for (const match of words.matchAll(/\b(rtmps?|srt|https):\/\/[^\s<>"'“”)\]}]+/gi)) {
    const address = match[0].replace(/[.,;:!?]+$/, '')
    const scheme = (match[1] ?? '').toLowerCase()
    if (scheme === 'https' && !/whip/i.test(`${heading} ${words}`)) continue
    const protocol = scheme === 'https' ? 'whip' : (scheme as Protocol)
    // A placeholder for the key at the end belongs in the key.
    const bare = address.replace(/\/(?:[{<[(]?(?:your[-_ ]?)?(?:stream|app)?[-_ ]?(?:key|name)[}>\])]?|x{3,}|\*{3,})$/i, '')
    if (addressProblem(bare, protocol) !== null) continue
    const isBackup = /back\s?-?up|secondary|fail\s?-?over|second(?:ary)? ingest/i.test(`${heading} ${words.slice(0, match.index)}`)
    found.push({ topic: 'address', address: bare, protocol, isBackup })
  }
  if (found.length > 0) return found
  const protocols = [
    ['whip', /\bwhip\b|\bwebrtc\b/i],
    ['srt', /\bsrt\b/i],
    ['rtmps', /\brtmps\b/i],
    ['rtmp', /\brtmp\b/i],
  ] as [Protocol, RegExp][]
  for (const [protocol, pattern] of protocols) {
    const match = pattern.exec(words)
    if (match && !isDenied(words, match.index, match[0].length)) found.push({ topic: 'protocol', protocol })
  }
  return found
}

function procedureFindings({ words, heading }: Statement): Finding[] {
  const found: Finding[] = []
  const text = `${heading} ${words}`
  if (/\b(?:stream\s?)?key\b/i.test(text)) {
    if (/\b(?:new|fresh|different|another)\b[^.]{0,30}\b(?:key|each|every)\b|\b(?:changes?|renew(?:s|ed)?|reset|regenerated?|expires?|one-time|single[- ]use|per[- ]session|once only|valid (?:for )?(?:one|a single))\b/i.test(words))
      found.push({ topic: 'key life', life: 'per session' })
    else if (/\b(?:persistent|permanent|lasting|stays? the same|never (?:changes|expires)|does(?: not|n['’]t) (?:change|expire)|reusable|re-?use|same key)\b/i.test(words))
      found.push({ topic: 'key life', life: 'lasting' })
    const hours = /\b(?:valid|expires?|good|lasts?)\b[^.\d]{0,25}(\d{1,4})\s*(hours?|h\b|days?|minutes?|min\b)/i.exec(words)
    if (hours) {
      const unit = (hours[2] ?? '').toLowerCase()
      const scale = unit.startsWith('d') ? 24 : unit.startsWith('m') ? 1 / 60 : 1
      found.push({ topic: 'key hours', hours: Number(hours[1]) * scale })
    }
  }
  if (/\b(?:press|click|tap|hit|select|choose)\b[^.]{0,30}\b(?:go live|start|begin|publish|broadcast)\b|\bstart(?:ed)?\b[^.]{0,30}\b(?:on|from|in) (?:the|its|your) (?:page|dashboard|studio|control room|console)/i.test(words))
    found.push({ topic: 'start', start: 'pressed on its page' })
  else if (/\b(?:goes?|are|is|be) live\b[^.]{0,40}\b(?:automatically|as soon as|when|once|immediately)\b|\bautomatically\b[^.]{0,30}\blive\b|\bstarts? automatically\b/i.test(words))
    found.push({ topic: 'start', start: 'live when it arrives' })
  const ladder = new RegExp(String.raw`\b(?:up to |at most |max(?:imum)? )?(\d|${wordNumberPattern})\s+(?:renditions|qualities|variants|bitrate streams|quality levels)\b`, 'i').exec(words)?.[1]
  if (ladder !== undefined) {
    const word = wordNumberOf(ladder)
    found.push({ topic: 'renditions', count: word >= 0 ? word : Number(ladder) })
  }
  if (/\bback\s?-?up (?:ingest|server|stream|url|address)|redundant|secondary ingest/i.test(text))
    found.push({ topic: 'backup', offers: !/\b(?:no|not|without)\b[^.]{0,15}back\s?-?up/i.test(words) })
  return found
}

/** Everything that one statement says of a destination's rules, in its own order by topic. */
export function findingsOf(statement: Statement): Finding[] {
  return [
    ...addressFindings(statement),
    ...codecFindings(statement),
    ...sizeFindings(statement),
    ...frameRateFindings(statement),
    ...rateFindings(statement),
    ...keyframeFindings(statement),
    ...bFrameFindings(statement),
    ...audioFindings(statement),
    ...procedureFindings(statement),
  ]
}
