import Flv from 'node-media-server/src/protocol/flv.js'
import type { MediaPacket } from 'node-media-server/src/protocol/rtmp.js'
import { runProgram, type RunningProgram } from '../programs/runProgram'
import { systemPrograms } from '../programs/systemPrograms'
import { type RtpPort, rtpPort } from '../webrtc/rtpPort'
import type { SentSound } from './publisher'

const host = '127.0.0.1'
const longestSeconds = 7 * 24 * 3600
const opusRateHz = 48_000

/** The program that makes Opus of the sound that comes to the server. */
export interface OpusProgram extends Pick<RtpPort, 'onPacket' | 'ntpOf'> {
  /** Takes sound; it starts with the first. `beganAt` is when its time stamps stood at nothing, in milliseconds since 1970. */
  take(packet: MediaPacket, beganAt: number): void
  /** Why it makes no more, in words. */
  readonly ended: Promise<string>
  close(): Promise<void>
}

const argumentsFor = (
  payloadType: number,
  port: number,
  { bitrateKbps, channels }: SentSound,
  beganAt: number,
): string[] => [
  ...['-hide_banner', '-nostdin', '-y', '-loglevel', 'error', '-nostats'],
  // Its head says all that there is to know; it would be listened to for seconds otherwise.
  ...['-analyzeduration', '1', '-probesize', '32', '-copyts', '-f', 'flv', '-i', 'pipe:0'],
  ...['-map', '0:a', '-c:a', 'libopus', '-b:a', `${bitrateKbps}k`, '-ac', `${channels}`],
  ...['-f', 'rtp', '-payload_type', `${payloadType}`, '-start_time_realtime', `${beganAt * 1000}`],
  `rtp://${host}:${port}?rtcpport=${port}`,
]

/** Makes one, which sends its packets to a port of its own. */
export async function opusProgram(payloadType: number, sound: SentSound): Promise<OpusProgram> {
  const port = await rtpPort(opusRateHz)
  let program: RunningProgram | undefined
  let isClosed = false
  let hasEnded: (why: string) => void = () => {}
  const ended = new Promise<string>((resolve) => (hasEnded = resolve))
  function start(beganAt: number): RunningProgram {
    const started = runProgram(
      systemPrograms.encoder,
      'ffmpeg',
      argumentsFor(payloadType, port.port, sound, beganAt),
      { timeLimitSeconds: longestSeconds, hasInput: true },
    )
    started.input?.write(Flv.createHeader(true, false))
    void started.ended.then(({ errors }) =>
      hasEnded(
        /unknown encoder/i.test(errors)
          ? 'the encoder program here makes no Opus, which is the sound of WHIP'
          : 'the program that makes its sound ended',
      ),
    )
    return started
  }
  return {
    onPacket: port.onPacket,
    ntpOf: port.ntpOf,
    ended,
    take(packet, beganAt) {
      if (isClosed) return
      program ??= start(beganAt)
      if (program.input?.writable) program.input.write(Flv.createMessage(packet))
    },
    async close() {
      if (!isClosed) port.close()
      isClosed = true
      await program?.kill()
    },
  }
}
