import type { MediaPacket } from 'node-media-server/src/protocol/rtmp.js'
import { newerCodecOf, packetStream, type PacketStream } from './packetStream'

const videoTag = 9
const flags = { head: 2, keyframe: 3, frame: 4 } as const
/** Kept from the first keyframe after a send has got going, for so long. */
const fromMilliseconds = 3000
const keptMilliseconds = 2000
/** A send of 60 Mb/s for as long as is kept. */
const maxBytes = 16_000_000

/** A short stretch of the picture of one send, as a file that can be decoded. */
export interface KeptStretch {
  take: (packet: MediaPacket) => void
  /** Empty where no stretch was whole, or it was too large to be kept. */
  file: () => Buffer
}

/** Keeps a stretch of the picture of a send as it comes. */
export function keepStretch(): KeptStretch {
  let head: MediaPacket | undefined
  let stream: PacketStream | undefined
  let began: number | undefined
  let isWhole = false
  let bytes = 0
  const pieces: Buffer[] = []

  function takeFrame(packet: MediaPacket): void {
    if (began === undefined && packet.dts >= fromMilliseconds && packet.flags === flags.keyframe)
      began = packet.dts
    if (began === undefined || !head) return
    if (packet.dts >= began + keptMilliseconds) {
      isWhole = true
      return
    }
    bytes += packet.size
    if (bytes > maxBytes) return void (pieces.length = 0)
    if (!stream) {
      stream = packetStream(newerCodecOf(head) ?? 'h264')
      pieces.push(stream.bytesOf(head))
    }
    pieces.push(stream.bytesOf(packet))
  }

  return {
    take(packet) {
      if (packet.codec_type !== videoTag || isWhole) return
      // Kept by copy: the library reads the next message into the same bytes.
      if (packet.flags === flags.head)
        head = { ...packet, data: Buffer.from(packet.data.subarray(0, packet.size)) }
      else if (packet.flags === flags.keyframe || packet.flags === flags.frame) takeFrame(packet)
    },
    file: () => (isWhole && bytes <= maxBytes ? Buffer.concat(pieces) : Buffer.alloc(0)),
  }
}
