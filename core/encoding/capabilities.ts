import { type Codec, codecs, type Protocol, protocols } from '../show'

/**
 * Which codecs an encoder program can encode, put into what a protocol carries, and get out again.
 * FFmpeg before 6.1 puts neither HEVC nor AV1 into FLV, and has no muxer for WHIP; AV1 in its
 * transport stream is read back as nothing that is known.
 */
export type Carries = Record<Protocol, readonly Codec[]>

/** What FFmpeg 5.1 carries, measured on it; where nothing is known of the program. */
export const carriedByOlderPrograms = {
  rtmp: ['h264'],
  rtmps: ['h264'],
  srt: ['h264', 'hevc'],
  whip: [],
} as const satisfies Carries

/** One try: what was encoded into which muxer, and what was found when it was read again. */
export interface CarryTry {
  codec: Codec
  muxer: string
  readBackAs: string | null
}

/** What is carried, from tries of every codec in every muxer. */
export function carriesOf(
  tries: readonly CarryTry[],
  muxers: Readonly<Record<Protocol, string>>,
): Record<Protocol, Codec[]> {
  const carried = (protocol: Protocol): Codec[] =>
    codecs.filter((codec) =>
      tries.some(
        (each) =>
          each.codec === codec && each.muxer === muxers[protocol] && each.readBackAs === codec,
      ),
    )
  return Object.fromEntries(protocols.map((protocol) => [protocol, carried(protocol)])) as Record<
    Protocol,
    Codec[]
  >
}
