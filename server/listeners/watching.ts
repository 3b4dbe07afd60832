import { type WatchedStretches, watchReader } from '@green-mantle/core/arrival'
import Flv from 'node-media-server/src/protocol/flv.js'
import type { MediaPacket } from 'node-media-server/src/protocol/rtmp.js'
import { runProgram } from '../programs/runProgram'
import { missingProgram, systemPrograms } from '../programs/systemPrograms'

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

export interface Watching {
  take(packet: MediaPacket): void
  stop(): void
}

/** Decodes a send as it comes and says into `watched` when its picture stands still and its sound is silent. */
export function watchFlv(watched: WatchedStretches): Watching {
  if (missingProgram(systemPrograms.encoder)) return { take: () => {}, stop: () => {} }
  const read = watchReader(watched)
  const program = runProgram(
    systemPrograms.encoder,
    'ffmpeg',
    [
      ...['-hide_banner', '-nostats', '-loglevel', 'info', '-copyts', '-f', 'flv', '-i', 'pipe:0'],
      ...['-map', '0:v?', '-map', '0:a?', '-vf', watchingFilters.picture],
      ...['-af', watchingFilters.sound, '-f', 'null', '-'],
    ],
    { timeLimitSeconds: longestSeconds, givesWay: true, hasInput: true, onError: read },
  )
  const { input } = program
  input?.write(Flv.createHeader(true, true))
  return {
    take(packet) {
      if (!input?.writable) return
      if (input.writableLength > maxWaitingBytes) void program.stop()
      else input.write(Flv.createMessage(packet))
    },
    stop: () => void program.kill(),
  }
}
