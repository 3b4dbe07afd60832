import type { Codec, Protocol } from '../show'

/** Which codecs go out over each protocol. */
export type Carries = Record<Protocol, readonly Codec[]>

/**
 * What is sent from here at all. RTMP has the newer codecs by their four characters (Enhanced RTMP v1);
 * a transport stream has HEVC by its standard (ISO/IEC 13818-1) and AV1 by none that programs share; over
 * WHIP pictures are put into packets by RFC 6184, which is H.264's.
 */
export const sentFromHere = {
  rtmp: ['h264', 'hevc', 'av1'],
  rtmps: ['h264', 'hevc', 'av1'],
  srt: ['h264', 'hevc'],
  whip: ['h264'],
} as const satisfies Carries
