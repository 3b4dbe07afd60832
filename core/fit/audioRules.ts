import { audioCodecNames, kbpsInWords, listInWords, sampleRateInWords } from '../words'
import { type AudioCodec, audioCodecs, type Protocol, type Rendition } from '../show'
import type { Check, RuleName } from './breach'

/**
 * The audio codecs that each protocol carries as senders use it: AAC in RTMP's FLV bodies, Opus over
 * WebRTC (RFC 7874), both in a transport stream.
 */
export const audioCodecsCarried = {
  rtmp: ['aac'],
  rtmps: ['aac'],
  srt: ['aac', 'opus'],
  whip: ['opus'],
} as const satisfies Record<Protocol, readonly AudioCodec[]>

/** The rules that are about the sound. */
export const audioRuleNames: ReadonlySet<RuleName> = new Set([
  'audio codec',
  'audio bitrate',
  'audio channels',
  'audio sample rate',
])

export const checkAudioCodec: Check = ({ rules, rendition, destination }) => {
  const carried: readonly AudioCodec[] = audioCodecsCarried[destination.protocol]
  const accepted = audioCodecs.filter(
    (codec) => rules.audioCodecs.includes(codec) && carried.includes(codec),
  )
  if (accepted.includes(rendition.audioCodec)) return null
  const [audioCodec] = accepted
  const names = rules.audioCodecs.map((codec) => audioCodecNames[codec])
  return {
    rule: 'audio codec',
    words: rules.audioCodecs.includes(rendition.audioCodec)
      ? `${destination.name} is reached by ${destination.protocol.toUpperCase()}, which does not carry ${audioCodecNames[rendition.audioCodec]}.`
      : `${destination.name} takes ${listInWords(names, 'or')} audio, not ${audioCodecNames[rendition.audioCodec]}.`,
    remedy: audioCodec
      ? { words: `Set ${audioCodecNames[audioCodec]}`, changes: { audioCodec } }
      : null,
  }
}

export const checkAudioChannels: Check = ({ rules, rendition, destination }) =>
  rendition.audioChannels <= rules.mostAudioChannels
    ? null
    : {
        rule: 'audio channels',
        words: `${destination.name} takes mono audio only.`,
        remedy: { words: 'Set mono', changes: { audioChannels: 1 } },
      }

export const checkAudioBitrate: Check = ({ rules, rendition, destination }) => {
  const most = rules.mostAudioBitrateKbps
  if (rendition.audioBitrateKbps <= most) return null
  return {
    rule: 'audio bitrate',
    words: `${destination.name} takes at most ${kbpsInWords(most)} of audio, not ${rendition.audioBitrateKbps}.`,
    remedy: { words: `Set ${kbpsInWords(most)}`, changes: { audioBitrateKbps: most } },
  }
}

export const checkAudioSampleRate: Check = ({ rules, rendition, destination }) => {
  if (rules.audioSampleRatesHz.includes(rendition.audioSampleRateHz)) return null
  const audioSampleRateHz = rules.audioSampleRatesHz[0] as Rendition['audioSampleRateHz']
  return {
    rule: 'audio sample rate',
    words: `${destination.name} takes audio at ${listInWords(
      rules.audioSampleRatesHz.map(sampleRateInWords),
      'or',
    )}, not ${sampleRateInWords(rendition.audioSampleRateHz)}.`,
    remedy: {
      words: `Set ${sampleRateInWords(audioSampleRateHz)}`,
      changes: { audioSampleRateHz },
    },
  }
}
