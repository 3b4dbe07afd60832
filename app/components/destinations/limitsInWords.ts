import { acceptedFrameRates } from '@green-mantle/core/fit'
import type { Rules } from '@green-mantle/core/show'
import {
  codecNames,
  kbpsInWords,
  listInWords,
  sampleRateInWords,
  sizeInWords,
} from '@green-mantle/core/words'

/** A destination's limits in one line. */
export function limitsInWords(rules: Rules): string {
  const sizes =
    rules.sizes.type === 'up to'
      ? `≤ ${sizeInWords(rules.sizes)}`
      : listInWords(rules.sizes.sizes.map(sizeInWords), 'or')
  const rates = acceptedFrameRates(rules)
  const framesPerSecond =
    rules.framesPerSecond.type === 'up to'
      ? `${rules.framesPerSecond.most}`
      : listInWords(rates.map(String), 'or')
  return `${sizes} at ${framesPerSecond} · ≤ ${kbpsInWords(rules.mostVideoBitrateKbps)}`
}

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
