import { execFile } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { promisify } from 'node:util'
import { type EncodedOutput, fragmentMuxer, muxerOptions } from '@green-mantle/core/encoding'
import type { Codec } from '@green-mantle/core/show'
import type { MediaPacket } from 'node-media-server/src/protocol/rtmp.js'
import { afterAll, describe, expect, it } from 'vitest'
import { flvArrival } from '../listeners/flvArrival'
import { newerCodecOf, packetStream } from '../listeners/packetStream'
import { EncodeIngest } from './encodeIngest'

const run = promisify(execFile)
const folder = mkdtempSync(join(tmpdir(), 'green-mantle-newer-'))
afterAll(() => rmSync(folder, { recursive: true, force: true }))

const framesPerSecond = 25
const frames = 50
const rendition = {
  ...{ width: 320, height: 180, framesPerSecond, videoBitrateKbps: 300 },
  ...{ audioBitrateKbps: 96, audioSampleRateHz: 48_000, audioChannels: 2 },
}
const encoders = {
  hevc: ['libx265', '-preset', 'ultrafast', '-x265-params', 'bframes=2:keyint=25:log-level=none'],
  av1: ['libsvtav1', '-preset', '12', '-g', '25'],
} as const
type NewerCodec = keyof typeof encoders

/** One encode, handed over to us and into a file beside, and the packets that came of it. */
async function handedOver(codec: NewerCodec): Promise<{ packets: MediaPacket[]; file: string }> {
  const ingest = await EncodeIngest.open()
  const packets: MediaPacket[] = []
  const output = { muxer: fragmentMuxer, rendition: { ...rendition, codec: codec as Codec } }
  const ended = new Promise<void>((resolve) => {
    const address = ingest.expectEncode(output as EncodedOutput, () => ({
      packet: (packet) => packets.push(packet),
      bytes: () => {},
      ended: () => resolve(),
    }))
    void run('ffmpeg', [
      ...['-loglevel', 'error', '-nostdin', '-y', '-f', 'lavfi', '-i'],
      `testsrc2=size=320x180:rate=${framesPerSecond}`,
      ...['-f', 'lavfi', '-i', 'sine=frequency=440:sample_rate=48000', '-t', '2'],
      ...['-map', '0:v', '-map', '1:a', '-pix_fmt', 'yuv420p', '-c:v', ...encoders[codec]],
      ...['-c:a', 'aac', '-ac', '2', '-flags', '+global_header', '-f', 'tee'],
      `[f=${fragmentMuxer}:${muxerOptions[fragmentMuxer]}]${address}|[f=matroska]${join(folder, `${codec}.mkv`)}`,
    ])
  })
  await ended
  await ingest.close()
  return { packets, file: join(folder, `${codec}.mkv`) }
}

/** What Debian's ffprobe finds in a file of a picture's packets, and what FFmpeg makes of every frame of it. */
const packetsIn = async (file: string): Promise<{ size: number; presentSeconds: number }[]> => {
  const { stdout } = await run('ffprobe', [
    ...['-v', 'error', '-select_streams', 'v', '-show_entries', 'packet=size,pts_time'],
    ...['-of', 'csv=p=0', file],
  ])
  return stdout
    .trim()
    .split('\n')
    .map((line) => {
      const [presentSeconds, size] = line.split(',').map(Number)
      return { size: size!, presentSeconds: presentSeconds! }
    })
}
const framesOf = async (file: string): Promise<string[]> => {
  const { stdout } = await run('ffmpeg', [
    ...['-loglevel', 'error', '-nostdin', '-i', file, '-map', '0:v', '-f', 'framemd5', '-'],
  ])
  const lines = stdout.split('\n').filter((line) => line !== '' && !line.startsWith('#'))
  return lines.map((line) => line.split(',').at(-1)!.trim())
}

describe.each(['hevc', 'av1'] as const)('%s, handed over frame by frame', (codec) => {
  it('comes whole and in time, as the file beside it has it', { timeout: 600_000 }, async () => {
    const { packets, file } = await handedOver(codec)
    const pictures = packets.filter((packet) => newerCodecOf(packet) === codec)
    const { arrival, take } = flvArrival(() => 0)
    for (const packet of packets) take(packet)
    expect(arrival.picture).toMatchObject({ codec })
    expect(arrival.sound).toMatchObject({ codec: 'aac', sampleRateHz: 48_000, channels: 2 })
    const own = arrival.frames.filter(({ kind }) => kind === 'video')
    const beside = await packetsIn(file)
    expect(own).toHaveLength(frames)
    expect(pictures).toHaveLength(frames + 1)
    expect(own.map(({ bytes }) => bytes)).toEqual(beside.map(({ size }) => size))
    const later = own[0]!.presentSeconds - beside[0]!.presentSeconds
    for (const [index, { presentSeconds }] of own.entries())
      expect(Math.abs(presentSeconds - later - beside[index]!.presentSeconds)).toBeLessThan(0.0021)
    expect(own.filter(({ isKey }) => isKey)).toHaveLength(2)

    // As a stream that the program reads again it is the same picture, frame by frame.
    const stream = packetStream(codec, rendition)
    const again = join(folder, `${codec} again.mkv`)
    await writeFile(again, Buffer.concat(packets.map((packet) => stream.bytesOf(packet))))
    expect(await framesOf(again)).toEqual(await framesOf(file))
    expect(await framesOf(again)).toHaveLength(frames)
  })
})
