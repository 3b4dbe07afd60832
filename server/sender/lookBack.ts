import { writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import type { CanvasName } from '@green-mantle/core/show'
import type { MediaPacket } from 'node-media-server/src/protocol/rtmp.js'
import { safeFileName } from '../files/safeFileName'
import { newerCodecOf, packetStream } from '../listeners/packetStream'

/** However much is kept, no more than this. */
const maxBytes = 100_000_000
const [audioTag, videoTag, dataTag] = [8, 9, 18]
const endings = { flv: 'flv', matroska: 'mkv' } as const
const flag = { audioHead: 0, videoHead: 2, keyframe: 3 } as const

const isHead = ({ codec_type: type, flags }: MediaPacket): boolean =>
  type === dataTag ||
  (type === videoTag && flags === flag.videoHead) ||
  (type === audioTag && flags === flag.audioHead)
const isKeyframe = ({ codec_type: type, flags }: MediaPacket): boolean =>
  type === videoTag && flags === flag.keyframe

/** The last seconds of one encode, so that a moment can be kept after it happened. */
export class LookBack {
  private readonly heads = new Map<number, MediaPacket>()
  private packets: MediaPacket[] = []
  private bytes = 0

  constructor(readonly seconds: number) {}

  /** Forgets everything: the encoder began anew, and its times with it. */
  clear(): void {
    this.heads.clear()
    this.packets = []
    this.bytes = 0
  }

  take(packet: MediaPacket): void {
    // The library reads the next message into the same bytes.
    const own = { ...packet, data: Buffer.from(packet.data.subarray(0, packet.size)) }
    if (isHead(packet)) {
      this.heads.set(packet.codec_type, own)
      return
    }
    this.packets.push(own)
    this.bytes += packet.size
    if (isKeyframe(packet)) this.trim(packet.dts)
  }

  /** Lets go what is older, whole groups at a time: what is kept begins with a keyframe. */
  private trim(nowMilliseconds: number): void {
    for (;;) {
      const next = this.packets.findIndex((packet, index) => index > 0 && isKeyframe(packet))
      const following = this.packets[next]
      if (!following) return
      const isNeeded = following.dts > nowMilliseconds - this.seconds * 1000
      if (isNeeded && this.bytes <= maxBytes) return
      for (const { size } of this.packets.splice(0, next)) this.bytes -= size
    }
  }

  /** What is kept, as a file; null where no whole group is. */
  file(): { ending: (typeof endings)[keyof typeof endings]; content: Buffer } | null {
    const from = this.packets.findIndex(isKeyframe)
    const first = this.packets[from]
    if (!first || this.heads.size === 0) return null
    const shifted = (packet: MediaPacket, dts: number): MediaPacket => ({
      ...packet,
      dts,
      pts: dts + (packet.pts - packet.dts),
    })
    const stream = packetStream(newerCodecOf(first) ?? 'h264')
    const packets = [
      ...[...this.heads.values()].map((head) => shifted(head, 0)),
      ...this.packets
        .slice(from)
        .map((packet) => shifted(packet, Math.max(0, packet.dts - first.dts))),
    ]
    return {
      ending: endings[stream.form],
      content: Buffer.concat(packets.map((packet) => stream.bytesOf(packet))),
    }
  }
}

/** Writes what is held of a canvas into the folder of recordings; the file, or null where nothing is held. */
export async function keepLookBack(
  lookBack: LookBack,
  of: { canvas: CanvasName; title: string; recordingsFolder: string },
): Promise<string | null> {
  const kept = lookBack.file()
  if (!kept) return null
  const at = new Date().toISOString().slice(0, 19).replaceAll(':', '-')
  const name = `${safeFileName(of.title)}, ${of.canvas}, last ${lookBack.seconds} s, ${at}.${kept.ending}`
  const file = join(of.recordingsFolder, name)
  await writeFile(file, kept.content)
  return file
}
