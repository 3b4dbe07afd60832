import Flv from 'node-media-server/src/protocol/flv.js'
import type { MediaPacket } from 'node-media-server/src/protocol/rtmp.js'

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
  let head: Buffer | undefined
  let began: number | undefined
  let isWhole = false
  let bytes = 0
  const messages: Buffer[] = []

  function takeFrame(packet: MediaPacket): void {
    if (began === undefined && packet.dts >= fromMilliseconds && packet.flags === flags.keyframe)
      began = packet.dts
    if (began === undefined) return
    if (packet.dts >= began + keptMilliseconds) {
      isWhole = true
      return
    }
    bytes += packet.size
    if (bytes > maxBytes) messages.length = 0
    else messages.push(Flv.createMessage(packet))
  }

  return {
    take(packet) {
      if (packet.codec_type !== videoTag || isWhole) return
      if (packet.flags === flags.head) head = Flv.createMessage(packet)
      else if (packet.flags === flags.keyframe || packet.flags === flags.frame) takeFrame(packet)
    },
    file: () =>
      head && isWhole && messages.length > 0
        ? Buffer.concat([Flv.createHeader(false, true), head, ...messages])
        : Buffer.alloc(0),
  }
}
