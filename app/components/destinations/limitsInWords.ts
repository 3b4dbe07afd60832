import { acceptedFrameRates } from '@green-mantle/core/fit'
import type { Rules } from '@green-mantle/core/show'
import {
  codecNames,
  kbpsInWords,
  listInWords,
  sampleRateInWords,
  sizeInWords,
} from '@green-mantle/core/words'

export const sizesInWords = ({ sizes }: Rules): string =>
  sizes.type === 'up to'
    ? `≤ ${sizeInWords(sizes)}`
    : listInWords(sizes.sizes.map(sizeInWords), 'or')

export const frameRatesInWords = (rules: Rules): string =>
  rules.framesPerSecond.type === 'up to'
    ? `${rules.framesPerSecond.most}`
    : listInWords(acceptedFrameRates(rules).map(String), 'or')

/** A destination's limits in one line. */
export const limitsInWords = (rules: Rules): string =>
  `${sizesInWords(rules)} at ${frameRatesInWords(rules)} · ≤ ${kbpsInWords(rules.mostVideoBitrateKbps)}`

/** The rest of the limits, as a sentence. */
export function furtherLimitsInWords(rules: Rules): string {
  const codecs = listInWords(
    rules.codecs.map((codec) => {
      const cap = rules.highestLevel[codec]
      return cap ? `${codecNames[codec]} up to level ${cap}` : codecNames[codec]
    }),
    'or',
  )
  const rates = listInWords(rules.audioSampleRatesHz.map(sampleRateInWords), 'or')
  return `${codecs}, keyframe every ${rules.longestKeyframeIntervalSeconds} s or sooner, at most ${rules.mostBFrames} B-frames, audio to ${rules.mostAudioBitrateKbps} kb/s at ${rates}.`
}
