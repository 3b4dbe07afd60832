import { addressProblem, type Protocol } from '../../show'
import { isDenied } from './bounds'
import type { Finding } from './finding'
import { wordNumberOf, wordNumberPattern } from './numbers'
import type { Statement } from './statements'

export function addressFindings({ words, heading }: Statement): Finding[] {
  const found: Finding[] = []
  for (const match of words.matchAll(/\b(rtmps?|srt|https):\/\/[^\s<>"'“”)\]}]+/gi)) {
    const address = match[0].replace(/[.,;:!?]+$/, '')
    const scheme = (match[1] ?? '').toLowerCase()
    if (scheme === 'https' && !/whip/i.test(`${heading} ${words}`)) continue
    const protocol = scheme === 'https' ? 'whip' : (scheme as Protocol)
    // A placeholder for the key at the end belongs in the key.
    const bare = address.replace(
      /\/(?:[{<[(]?(?:your[-_ ]?)?(?:stream|app)?[-_ ]?(?:key|name)[}>\])]?|x{3,}|\*{3,})$/i,
      '',
    )
    if (addressProblem(bare, protocol) !== null) continue
    const isBackup = /back\s?-?up|secondary|fail\s?-?over|second(?:ary)? ingest/i.test(
      `${heading} ${words.slice(0, match.index)}`,
    )
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
    if (match && !isDenied(words, match.index, match[0].length))
      found.push({ topic: 'protocol', protocol })
  }
  return found
}

export function procedureFindings({ words, heading }: Statement): Finding[] {
  const found: Finding[] = []
  const text = `${heading} ${words}`
  if (/\b(?:stream\s?)?key\b/i.test(text)) {
    // What happens only if somebody does it happens to no key by itself.
    const byItself = words.replaceAll(
      /\b(?:until|unless|if|when(?:ever)?|except when) (?:you|it is|it['’]s|somebody)\b[^.;]*/gi,
      '',
    )
    const isLasting =
      /\b(?:persistent|permanent|lasting|stays? the same|never (?:changes|expires)|does(?: not|n['’]t) (?:change|expire)|reusable|re-?use|same key)\b/i.test(
        byItself,
      )
    const isRenewed =
      /\b(?:new|fresh|different|another)\b[^.]{0,30}\b(?:key|each|every)\b|\b(?:changes?|renew(?:s|ed)?|reset|regenerated?|expires?|one-time|single[- ]use|per[- ]session|once only|valid (?:for )?(?:one|a single))\b/i.test(
        byItself.replaceAll(/\b(?:never|not|n['’]t) (?:changes?|expires?)\b/gi, ''),
      )
    if (isLasting) found.push({ topic: 'key life', life: 'lasting' })
    if (isRenewed) found.push({ topic: 'key life', life: 'per session' })
    const hours =
      /\b(?:valid|expires?|good|lasts?)\b[^.\d]{0,25}(\d{1,4})\s*(hours?|h\b|days?|minutes?|min\b)/i.exec(
        words,
      )
    if (hours) {
      const unit = (hours[2] ?? '').toLowerCase()
      const scale = unit.startsWith('d') ? 24 : unit.startsWith('m') ? 1 / 60 : 1
      found.push({ topic: 'key hours', hours: Number(hours[1]) * scale })
    }
  }
  if (
    /\b(?:press|click|tap|hit|select|choose)\b[^.]{0,30}\b(?:go live|start|begin|publish|broadcast)\b|\bstart(?:ed)?\b[^.]{0,30}\b(?:on|from|in) (?:the|its|your) (?:page|dashboard|studio|control room|console)/i.test(
      words,
    )
  )
    found.push({ topic: 'start', start: 'pressed on its page' })
  else if (
    /\b(?:goes?|are|is|be) live\b[^.]{0,40}\b(?:automatically|as soon as|when|once|immediately)\b|\bautomatically\b[^.]{0,30}\blive\b|\bstarts? automatically\b/i.test(
      words,
    )
  )
    found.push({ topic: 'start', start: 'live when it arrives' })
  const ladder = new RegExp(
    String.raw`\b(?:up to |at most |max(?:imum)? )?(\d|${wordNumberPattern})\s+(?:renditions|qualities|variants|bitrate streams|quality levels)\b`,
    'i',
  ).exec(words)?.[1]
  if (ladder !== undefined) {
    const word = wordNumberOf(ladder)
    found.push({ topic: 'renditions', count: word >= 0 ? word : Number(ladder) })
  }
  if (/\bback\s?-?up (?:ingest|server|stream|url|address)|redundant|secondary ingest/i.test(text))
    found.push({
      topic: 'backup',
      offers: !/\b(?:no|not|without)\b[^.]{0,15}back\s?-?up/i.test(words),
    })
  return found
}
