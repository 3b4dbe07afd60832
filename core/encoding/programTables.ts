import type { AudioCodec, Codec, Effort, Protocol } from '../show'

/** FFmpeg's software encoders, and their names for how hard they work. */
export const softwareEncoders = {
  h264: {
    name: 'libx264',
    presets: {
      fastest: 'superfast',
      brisk: 'veryfast',
      balanced: 'faster',
      fine: 'medium',
      finest: 'slow',
    },
  },
  hevc: {
    name: 'libx265',
    presets: {
      fastest: 'ultrafast',
      brisk: 'superfast',
      balanced: 'veryfast',
      fine: 'fast',
      finest: 'medium',
    },
  },
  av1: {
    name: 'libsvtav1',
    presets: { fastest: '12', brisk: '10', balanced: '9', fine: '8', finest: '6' },
  },
} as const satisfies Record<Codec, { name: string; presets: Record<Effort, string> }>

export const audioEncoders = { aac: 'aac', opus: 'libopus' } as const satisfies Record<
  AudioCodec,
  string
>

/** FFmpeg's muxer for what goes over each protocol, and for a recording. */
export const muxers = {
  rtmp: 'flv',
  rtmps: 'flv',
  srt: 'mpegts',
  whip: 'whip',
} as const satisfies Record<Protocol, string>
export const recordingMuxer = 'matroska'
/** The muxer whose fragments bring a frame at a time. */
export const fragmentMuxer = 'mp4'
/** In what an encode comes to the server: FLV, as programs before FFmpeg 6.1 write it, knows H.264 alone. */
export const handedOverMuxer = (codec: Codec): string =>
  codec === 'h264' ? muxers.rtmp : fragmentMuxer
/** What a muxer is told: every frame is handed over at once, and nothing is put right at the end. */
export const muxerOptions: Readonly<Record<string, string>> = {
  [fragmentMuxer]: 'movflags=frag_every_frame+empty_moov+default_base_moof',
}
