import type { Codec } from '../show'

/*
 * Pictures of newer codecs as RTMP carries them: "Enhanced RTMP (v1)", Veovera Software Organization, 2023.
 */

export type NewerCodec = Exclude<Codec, 'h264'>

/** By what each codec is told apart. */
export const fourCharacterCodes = { hevc: 'hvc1', av1: 'av01' } as const satisfies Record<
  NewerCodec,
  string
>

/** The same four characters as a number, the first highest, as metadata names a codec. */
export const fourCharacterNumber = (codec: NewerCodec): number =>
  [...fourCharacterCodes[codec]].reduce((sum, sign) => sum * 256 + sign.charCodeAt(0), 0)

/** In the first byte: that four characters follow, which frame it is, and what comes. */
const isEnhanced = 0x80
const frameTypes = { key: 1, inter: 2 } as const
const packetTypes = { sequenceStart: 0, codedFrames: 1, codedFramesAtOnce: 3 } as const

const head = (codec: NewerCodec, isKey: boolean, packetType: number): number[] => [
  isEnhanced | ((isKey ? frameTypes.key : frameTypes.inter) << 4) | packetType,
  ...[...fourCharacterCodes[codec]].map((sign) => sign.charCodeAt(0)),
]

function joined(first: readonly number[], rest: Uint8Array): Uint8Array {
  const whole = new Uint8Array(first.length + rest.length)
  whole.set(first)
  whole.set(rest, first.length)
  return whole
}

/** The body of a message with what a decoder needs before it begins. */
export const enhancedHead = (codec: NewerCodec, configuration: Uint8Array): Uint8Array =>
  joined(head(codec, true, packetTypes.sequenceStart), configuration)

export interface EnhancedFrame {
  isKey: boolean
  /** So much later it is shown than decoded. */
  offsetMilliseconds: number
  bytes: Uint8Array
}

/** The body of a message with one frame. Only HEVC says how much later it is shown, in 24 bits. */
export function enhancedFrame(
  codec: NewerCodec,
  { isKey, offsetMilliseconds, bytes }: EnhancedFrame,
): Uint8Array {
  const offset = Math.round(offsetMilliseconds)
  const hasOffset = codec === 'hevc' && offset !== 0
  // Without one a frame of HEVC is of another type, three bytes shorter; AV1 has but one.
  const type =
    codec === 'hevc' && !hasOffset ? packetTypes.codedFramesAtOnce : packetTypes.codedFrames
  const offsetBytes = hasOffset ? [(offset >> 16) & 0xff, (offset >> 8) & 0xff, offset & 0xff] : []
  return joined([...head(codec, isKey, type), ...offsetBytes], bytes)
}

/** How many bytes of the body of a frame are no part of the picture; null where it is not enhanced. */
export function enhancedFrameHeadBytes(body: Uint8Array): number | null {
  const first = body[0] ?? 0
  if ((first & isEnhanced) === 0) return null
  const characters = String.fromCharCode(...body.subarray(1, 5))
  const hasOffset =
    characters === fourCharacterCodes.hevc && (first & 0x0f) === packetTypes.codedFrames
  return hasOffset ? 8 : 5
}
