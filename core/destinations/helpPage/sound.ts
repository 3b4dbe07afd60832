import type { AudioCodec } from '../../show'
import { isDenied } from './bounds'
import type { Finding } from './finding'
import { numberOf } from './numbers'
import type { Statement } from './statements'

export function audioFindings({ words, heading }: Statement): Finding[] {
  const found: Finding[] = []
  for (const [pattern, codec] of [
    [/\b(?:he-|lc-)?aac(?:-lc|-he)?\b/i, 'aac'],
    [/\bopus\b/i, 'opus'],
  ] as [RegExp, AudioCodec][]) {
    const match = pattern.exec(words)
    if (match && !isDenied(words, match.index, match[0].length))
      found.push({ topic: 'audio codec', codec })
  }
  const kilohertz =
    /(?<![\d.])(44[.,]1|48)(?:[.,]0)?(?=\s*(?:k\s?hz|k\b|\/|or|and|,)[^;]{0,12}(?:k?\s?hz|k\b)|\s*k\s?hz)/gi
  for (const [, value = ''] of words.matchAll(kilohertz))
    found.push({ topic: 'sample rate', hertz: numberOf(value) * 1000 })
  for (const [, value = ''] of words.matchAll(
    /(?<!\d)(44[,. ]?100|48[,. ]?000)\s*(?:hz|samples)/gi,
  ))
    found.push({ topic: 'sample rate', hertz: Number(value.replaceAll(/\D/g, '')) })
  if (
    /sampl\w+ (?:rate|frequency)/i.test(`${heading} ${words}`) &&
    !found.some(({ topic }) => topic === 'sample rate')
  )
    for (const [, value = ''] of words.matchAll(
      /(?<![\d.])(44[,. ]?100|48[,. ]?000|44\.1|48)(?!\d)/g,
    )) {
      const number = Number(value.replaceAll(/[, ]/g, ''))
      found.push({
        topic: 'sample rate',
        hertz: number < 1000 ? (number > 100 ? number : number * 1000) : number,
      })
    }
  if (/\bstereo\b|\b(?:2|two)[ -]channels?\b|\b2\.0\b(?=.*channel)/i.test(words))
    found.push({ topic: 'channels', channels: 2 })
  else if (/\bmono(?:phonic)?\b|\b(?:1|one|single)[ -]channel\b/i.test(words))
    found.push({ topic: 'channels', channels: 1 })
  return found
}
