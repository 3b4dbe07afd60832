import { type AudioCodec, audioCodecs, type Codec, codecs } from '../show'
import type { ArrivedFrame, ArrivedPicture, ArrivedSound } from './arrival'

/** What a list of frames tells, line by line. */
export interface FrameLineReader {
  /** Gives every frame that a piece of the list completes. */
  read(piece: string, atSeconds: number): ArrivedFrame[]
  picture(): ArrivedPicture | null
  sound(): ArrivedSound | null
}

interface Stream {
  kind: 'video' | 'audio' | null
  tickSeconds: number
  codec: string
  width: number | null
  height: number | null
  sampleRateHz: number | null
  channels: number | null
}

const emptyStream = (): Stream => ({
  kind: null,
  tickSeconds: 0,
  codec: '',
  width: null,
  height: null,
  sampleRateHz: null,
  channels: null,
})

const knownCodec = (name: string): Codec | null => codecs.find((codec) => codec === name) ?? null
const knownAudio = (name: string): AudioCodec | null =>
  audioCodecs.find((codec) => codec === name) ?? null
const channelsOf: Readonly<Record<string, number>> = { mono: 1, stereo: 2 }

function readHead(streams: Map<number, Stream>, line: string): void {
  const [, name, index, value = ''] = /^#(\w+) (\d+): (.*)$/.exec(line) ?? []
  if (name === undefined || index === undefined) return
  const stream = streams.get(Number(index)) ?? emptyStream()
  streams.set(Number(index), stream)
  if (name === 'tb') {
    const [over, under] = value.split('/').map(Number) as [number, number]
    stream.tickSeconds = over / under
  } else if (name === 'media_type')
    stream.kind = value === 'video' || value === 'audio' ? value : null
  else if (name === 'codec_id') stream.codec = value
  else if (name === 'sample_rate') stream.sampleRateHz = Number(value)
  else if (name === 'channel_layout_name') stream.channels = channelsOf[value] ?? null
  else if (name === 'dimensions') {
    const [width, height] = value.split('x').map(Number) as [number, number]
    Object.assign(stream, { width, height })
  }
}

/**
 * Reads the list of frames that FFmpeg's `framecrc` writes: a head with the streams, then a line a frame
 * with stream, decoding and presentation time in ticks, duration, size and checksum, and its flags
 * where it is no keyframe.
 */
export function frameLineReader(): FrameLineReader {
  const streams = new Map<number, Stream>()
  let rest = ''
  const first = (kind: 'video' | 'audio'): Stream | undefined =>
    [...streams.values()].find((stream) => stream.kind === kind)
  function frameOf(line: string, atSeconds: number): ArrivedFrame[] {
    const fields = line.split(',').map((field) => field.trim())
    const stream = streams.get(Number(fields[0]))
    const [decode, present, , bytes] = fields.slice(1, 5).map(Number)
    if (!stream?.kind || stream.tickSeconds <= 0) return []
    if (![decode, present, bytes].every((value) => Number.isFinite(value))) return []
    return [
      {
        kind: stream.kind,
        bytes: bytes as number,
        decodeSeconds: (decode as number) * stream.tickSeconds,
        presentSeconds: (present as number) * stream.tickSeconds,
        isKey: stream.kind === 'video' && !fields.some((field) => field.startsWith('F=')),
        atSeconds,
      },
    ]
  }
  return {
    read(piece, atSeconds) {
      const lines = (rest + piece).split('\n')
      rest = (lines.pop() ?? '').slice(-1000)
      return lines.flatMap((line) => {
        if (!line.startsWith('#')) return frameOf(line, atSeconds)
        readHead(streams, line)
        return []
      })
    },
    picture() {
      const stream = first('video')
      if (!stream) return null
      const { width, height, codec } = stream
      return { codec: knownCodec(codec), profile: null, level: null, width, height }
    },
    sound() {
      const stream = first('audio')
      if (!stream) return null
      const { sampleRateHz, channels, codec } = stream
      return { codec: knownAudio(codec), sampleRateHz, channels }
    },
  }
}

/** Takes what FFmpeg's `freezedetect` and `silencedetect` say into what was seen and heard, piece by piece. */
export function watchReader(watched: {
  frozenSinceSeconds: number | null
  silentSinceSeconds: number | null
}): (piece: string) => void {
  let rest = ''
  return (piece) => {
    const lines = (rest + piece).split(/[\r\n]/)
    rest = (lines.pop() ?? '').slice(-1000)
    for (const line of lines) {
      const [, what, end, value] =
        /(freeze|silence)_(start|end): (-?\d+(?:\.\d+)?)/.exec(line) ?? []
      if (what === undefined) continue
      const since = end === 'start' ? Number(value) : null
      if (what === 'freeze') watched.frozenSinceSeconds = since
      else watched.silentSinceSeconds = since
    }
  }
}
