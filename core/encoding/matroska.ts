import type { Codec, Size } from '../show'

/** Element identifiers of Matroska (RFC 9559, section 27) and EBML (RFC 8794, section 17). */
const id = {
  ebml: 0x1a45dfa3,
  docType: 0x4282,
  docTypeVersion: 0x4287,
  docTypeReadVersion: 0x4285,
  segment: 0x18538067,
  info: 0x1549a966,
  timestampScale: 0x2ad7b1,
  muxingApp: 0x4d80,
  writingApp: 0x5741,
  tracks: 0x1654ae6b,
  trackEntry: 0xae,
  trackNumber: 0xd7,
  trackUid: 0x73c5,
  trackType: 0x83,
  flagLacing: 0x9c,
  defaultDuration: 0x23e383,
  codecId: 0x86,
  codecPrivate: 0x63a2,
  video: 0xe0,
  pixelWidth: 0xb0,
  pixelHeight: 0xba,
  audio: 0xe1,
  samplingFrequency: 0xb5,
  channels: 0x9f,
  bitDepth: 0x6264,
  cluster: 0x1f43b675,
  timestamp: 0xe7,
  simpleBlock: 0xa3,
} as const

/** Sizes of what is written as it comes are not known: all ones (RFC 8794, 6.2). */
const unknownSize = [0x01, 0xff, 0xff, 0xff, 0xff, 0xff, 0xff, 0xff]
const nanosecondsAMillisecond = 1_000_000
/** A block's time stands in 16 bits from its cluster's. */
const maxBlockOffset = 32_767
const clusterMilliseconds = 1000

/** Bytes of a whole number, the highest first, without leading zeros. */
function numberBytes(value: number): number[] {
  const bytes: number[] = []
  for (let left = value; left > 0 || bytes.length === 0; left = Math.floor(left / 256))
    bytes.unshift(left % 256)
  return bytes
}
/** Eight bytes of length: the first is the mark of how many. */
const sizeBytes = (size: number): number[] => [
  0x01,
  ...[...new Array<number>(7).fill(0), ...numberBytes(size)].slice(-7),
]
const element = (name: number, content: readonly number[]): number[] => [
  ...numberBytes(name),
  ...sizeBytes(content.length),
  ...content,
]
const text = (ascii: string): number[] => [...ascii].map((sign) => sign.charCodeAt(0))

function floatBytes(value: number): number[] {
  const bytes = new Uint8Array(8)
  new DataView(bytes.buffer).setFloat64(0, value)
  return [...bytes]
}

/** A track of what is written; blocks name it by its place in the head, from 1 on. */
export type MatroskaTrack =
  | {
      kind: 'picture'
      codec: Codec
      size: Size
      framesPerSecond: number
      /** Its decoder configuration record. */
      configuration: Uint8Array
    }
  | { kind: 'uncompressed sound'; sampleRateHz: number; channels: number; bitsASample: number }
  | { kind: 'AAC'; sampleRateHz: number; channels: number; configuration: Uint8Array }

/** Codecs as Matroska names them (the registry beside RFC 9559). */
const codecIds = {
  h264: 'V_MPEG4/ISO/AVC',
  hevc: 'V_MPEGH/ISO/HEVC',
  av1: 'V_AV1',
} as const satisfies Record<Codec, string>

const soundEntries = (
  { sampleRateHz, channels }: { sampleRateHz: number; channels: number },
  more: readonly number[] = [],
): number[] =>
  element(id.audio, [
    ...element(id.samplingFrequency, floatBytes(sampleRateHz)),
    ...element(id.channels, [channels]),
    ...more,
  ])

/** What tells one kind of track from another. */
function entriesOf(track: MatroskaTrack): number[] {
  switch (track.kind) {
    case 'picture':
      return [
        ...element(id.trackType, [1]),
        ...element(id.defaultDuration, numberBytes(Math.round(1e9 / track.framesPerSecond))),
        ...element(id.codecId, text(codecIds[track.codec])),
        ...element(id.codecPrivate, [...track.configuration]),
        ...element(id.video, [
          ...element(id.pixelWidth, numberBytes(track.size.width)),
          ...element(id.pixelHeight, numberBytes(track.size.height)),
        ]),
      ]
    case 'uncompressed sound':
      return [
        ...element(id.trackType, [2]),
        ...element(id.codecId, text('A_PCM/INT/LIT')),
        ...soundEntries(track, element(id.bitDepth, [track.bitsASample])),
      ]
    case 'AAC':
      return [
        ...element(id.trackType, [2]),
        ...element(id.codecId, text('A_AAC')),
        ...element(id.codecPrivate, [...track.configuration]),
        ...soundEntries(track),
      ]
  }
}

/** The head of a stream that is written as it comes. */
export const matroskaHead = (tracks: readonly MatroskaTrack[]): Uint8Array =>
  Uint8Array.from([
    ...element(id.ebml, [
      ...element(id.docType, text('matroska')),
      ...element(id.docTypeVersion, [4]),
      ...element(id.docTypeReadVersion, [2]),
    ]),
    ...[...numberBytes(id.segment), ...unknownSize],
    ...element(id.info, [
      ...element(id.timestampScale, numberBytes(nanosecondsAMillisecond)),
      ...element(id.muxingApp, text('canvas')),
      ...element(id.writingApp, text('canvas')),
    ]),
    ...element(
      id.tracks,
      tracks.flatMap((track, index) =>
        element(id.trackEntry, [
          ...element(id.trackNumber, [index + 1]),
          ...element(id.trackUid, [index + 1]),
          ...element(id.flagLacing, [0]),
          ...entriesOf(track),
        ]),
      ),
    ),
  ])

export interface MatroskaBlock {
  /** Its place in the head, from 1 on. */
  track: number
  atMilliseconds: number
  isKey: boolean
  bytes: Uint8Array
}

/** Writes blocks behind a head, each at once: a cluster is begun with the first, then after a second at most. */
export function matroskaBlocks(): (block: MatroskaBlock) => Uint8Array {
  let clusterAt: number | undefined
  return ({ track, atMilliseconds, isKey, bytes }) => {
    const at = Math.round(atMilliseconds)
    const offset = clusterAt === undefined ? Infinity : at - clusterAt
    const isNew = Math.abs(offset) > maxBlockOffset || offset > clusterMilliseconds
    if (isNew) clusterAt = at
    const own = isNew ? 0 : offset
    const head = [
      ...(isNew
        ? [
            ...[...numberBytes(id.cluster), ...unknownSize],
            ...element(id.timestamp, numberBytes(at)),
          ]
        : []),
      ...[...numberBytes(id.simpleBlock), ...sizeBytes(4 + bytes.length)],
      ...[0x80 | track, (own >> 8) & 0xff, own & 0xff, isKey ? 0x80 : 0],
    ]
    const whole = new Uint8Array(head.length + bytes.length)
    whole.set(head)
    whole.set(bytes, head.length)
    return whole
  }
}
