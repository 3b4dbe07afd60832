import { type WatchedStretches, watchReader } from '@green-mantle/core/arrival'
import type { MediaPacket } from 'node-media-server/src/protocol/rtmp.js'
import { runProgram, type RunningProgram } from '../programs/runProgram'
import { missingProgram, systemPrograms } from '../programs/systemPrograms'
import { newerCodecOf, packetStream, type PacketStream } from './packetStream'

/** A picture that moves less than this, and sound below this level, for so long. */
const stillSeconds = 2
export const watchingFilters = {
  // Fine enough to see a mark of a thousandth of the picture move on a scene that stands still.
  picture: `scale=320:-2,freezedetect=n=0.0001:d=${stillSeconds}`,
  sound: `silencedetect=n=-50dB:d=${stillSeconds}`,
} as const

/** What the program has not taken yet may grow this large; then it is too slow to watch. */
const maxWaitingBytes = 16_000_000
const longestSeconds = 24 * 3600
/** Metadata, and a head of picture and sound, perhaps said again. */
const mostHeads = 8

export interface Watching {
  take(packet: MediaPacket): void
  stop(): void
}

const flag = { audio: 1, keyframe: 3, frame: 4 } as const
const isFrame = ({ flags }: MediaPacket): boolean =>
  flags === flag.audio || flags === flag.keyframe || flags === flag.frame

/** Decodes a send as it comes and says into `watched` when its picture stands still and its sound is silent. */
export function watchPackets(watched: WatchedStretches): Watching {
  if (missingProgram(systemPrograms.encoder)) return { take: () => {}, stop: () => {} }
  /** What comes before the first frame, which tells in what form the program is to read. */
  const heads: MediaPacket[] = []
  let running: { program: RunningProgram; stream: PacketStream } | null = null

  function begin(): { program: RunningProgram; stream: PacketStream } {
    const codec = heads.map(newerCodecOf).find((each) => each !== undefined)
    const begun = packetStream(codec ?? 'h264')
    const program = decoder(begun.form, watchReader(watched))
    for (const head of heads) program.input?.write(begun.bytesOf(head))
    return { program, stream: begun }
  }

  return {
    take(packet) {
      if (!running && !isFrame(packet)) {
        // The library reads the next message into the same bytes.
        const data = Buffer.from(packet.data.subarray(0, packet.size))
        if (heads.length < mostHeads) heads.push({ ...packet, data })
        return
      }
      running ??= begin()
      const { program, stream } = running
      if (!program.input?.writable) return
      if (program.input.writableLength > maxWaitingBytes) void program.stop()
      else program.input.write(stream.bytesOf(packet))
    },
    stop: () => void running?.program.kill(),
  }
}

const decoder = (form: PacketStream['form'], onError: (piece: string) => void): RunningProgram =>
  runProgram(
    systemPrograms.encoder,
    'ffmpeg',
    [
      ...['-hide_banner', '-nostats', '-loglevel', 'info', '-copyts', '-f', form],
      ...['-protocol_whitelist', 'pipe', '-format_whitelist', form, '-i', 'pipe:0'],
      ...['-map', '0:v?', '-map', '0:a?', '-vf', watchingFilters.picture],
      ...['-af', watchingFilters.sound, '-f', 'null', '-'],
    ],
    { timeLimitSeconds: longestSeconds, givesWay: true, hasInput: true, onError },
  )
