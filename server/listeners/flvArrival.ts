import {
  type Arrival,
  type ArrivedFrame,
  type ArrivedPicture,
  nothingArrived,
  takeFrame,
} from '@green-mantle/core/arrival'
import { enhancedFrameHeadBytes } from '@green-mantle/core/encoding'
import type { MediaPacket } from 'node-media-server/src/protocol/rtmp.js'
import { pictureOfAv1, pictureOfAvc, pictureOfHevc, soundOfAac } from './streamHead'

const audioTag = 8
const videoTag = 9
const flags = { audioHead: 0, audio: 1, videoHead: 2, keyframe: 3, frame: 4 } as const
const aacCodec = 10
const avcCodec = 7

/** Bytes of a tag that are no frame: FLV's own, and enhanced RTMP's with its four characters. */
const audioHeadBytes = 2
const avcHeadBytes = 5
const newerHeadBytes = 5

const fourCharacters = (code: number): string => {
  const bytes = Buffer.alloc(4)
  bytes.writeUInt32BE(code >>> 0)
  return bytes.toString('latin1')
}

const newerHeads: Readonly<Record<string, (record: Buffer) => ArrivedPicture | null>> = {
  hvc1: pictureOfHevc,
  av01: pictureOfAv1,
}

/** Composition time is a signed number of 24 bits, which the library reads unsigned. */
const presentMilliseconds = ({ dts, pts }: MediaPacket): number => {
  const offset = pts - dts
  return dts + (offset >= 0x800000 ? offset - 0x1000000 : offset)
}

/** Takes the messages of one RTMP send into an arrival. */
export function flvArrival(clock: () => number): {
  arrival: Arrival
  take: (packet: MediaPacket) => void
} {
  const arrival = nothingArrived()
  // A head is kept by copy: the library reads the next message into the same bytes.
  const own = (packet: MediaPacket, from: number): Buffer =>
    Buffer.from(packet.data.subarray(from, packet.size))

  function takeHead(packet: MediaPacket): void {
    if (packet.codec_type === audioTag) {
      if (packet.codec_id === aacCodec) arrival.sound = soundOfAac(own(packet, audioHeadBytes))
    } else if (packet.codec_id === avcCodec)
      arrival.picture = pictureOfAvc(own(packet, avcHeadBytes))
    else
      arrival.picture =
        newerHeads[fourCharacters(packet.codec_id)]?.(own(packet, newerHeadBytes)) ?? null
  }

  function frameOf(packet: MediaPacket): ArrivedFrame | null {
    const isVideo = packet.codec_type === videoTag
    const headBytes = isVideo
      ? (enhancedFrameHeadBytes(packet.data) ?? avcHeadBytes)
      : audioHeadBytes
    if (packet.size <= headBytes) return null
    return {
      kind: isVideo ? 'video' : 'audio',
      bytes: packet.size - headBytes,
      decodeSeconds: packet.dts / 1000,
      presentSeconds: presentMilliseconds(packet) / 1000,
      isKey: isVideo && packet.flags === flags.keyframe,
      atSeconds: clock(),
    }
  }

  return {
    arrival,
    take(packet) {
      if (packet.codec_type !== audioTag && packet.codec_type !== videoTag) return
      if (packet.flags === flags.videoHead || packet.flags === flags.audioHead) takeHead(packet)
      else if (
        packet.flags === flags.keyframe ||
        packet.flags === flags.frame ||
        packet.flags === flags.audio
      ) {
        const frame = frameOf(packet)
        if (frame) takeFrame(arrival, frame)
      }
    },
  }
}
