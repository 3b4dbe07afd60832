import { execFileSync } from 'node:child_process'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { type Encode, encodesOf } from '@green-mantle/core/fit'
import { encoderScriptExtension, writeEncoderScript } from '@green-mantle/core/formats'
import { lowestLevel } from '@green-mantle/core/media'
import { newDestination, newRecording, type Rendition, type Show } from '@green-mantle/core/show'
import { demoShow } from '@green-mantle/demo'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'

/** The script is run for real by Debian's FFmpeg, and what comes out is read back by its ffprobe. */
const folder = mkdtempSync(join(tmpdir(), 'green-mantle-encoder-'))
const seconds = 6
let last = 0
const id = (): string => `id-${(last += 1)}`

function small(): Show {
  const rendition = (changes: Partial<Rendition>): Rendition => {
    const [made] = newDestination(id, 'x', 'landscape').renditions as [Rendition]
    return { ...made, width: 640, height: 360, videoBitrateKbps: 800, ...changes }
  }
  const place = (name: string, changes: Partial<Rendition>): Show['destinations'][number] => ({
    ...newDestination(id, name, 'landscape'),
    renditions: [rendition(changes)],
  })
  const shared = { audioBitrateKbps: 128 }
  return {
    ...demoShow,
    canvasPair: { ...demoShow.canvasPair, landscape: { width: 640, height: 360 } },
    destinations: [
      place('Long $(touch meadow)', shared),
      { ...place('Relayhouse', shared), protocol: 'srt' },
      place('Thin', {
        width: 426,
        height: 240,
        framesPerSecond: 60,
        effort: 'fastest',
        videoBitrateKbps: 400,
        bFrames: 0,
        keyframeIntervalSeconds: 1,
        audioSampleRateHz: 44_100,
        encoder: { ...rendition({}).encoder, profile: 'main', downscaling: 'bicubic' },
      }),
      { ...place('Newer', { codec: 'hevc', effort: 'fastest' }), protocol: 'srt' },
    ],
    recordings: [
      {
        ...newRecording(id, 'Archive', {
          canvas: 'landscape',
          size: { width: 640, height: 360 },
        }),
        rendition: rendition({ audioBitrateKbps: 192 }),
      },
      {
        ...newRecording(id, 'Newest', {
          canvas: 'landscape',
          size: { width: 640, height: 360 },
        }),
        mix: 'live mix',
        rendition: rendition({ codec: 'av1', effort: 'fastest' }),
      },
    ],
  }
}

interface Probe {
  streams: Record<string, string | number>[]
}
const probe = (path: string, entries: string): Probe =>
  JSON.parse(
    execFileSync('ffprobe', ['-v', 'error', '-of', 'json', '-show_entries', entries, path], {
      encoding: 'utf8',
      maxBuffer: 50_000_000,
    }),
  ) as Probe

/** A level as ffprobe writes it: ITU-T H.264 and H.265 Annex A, and AV1 Annex A, number theirs differently. */
function levelRead(rendition: Rendition): number {
  const level = lowestLevel(rendition)!
  const [whole, part] = level.split('.').map(Number) as [number, number]
  return { h264: Number(level) * 10, hevc: Number(level) * 30, av1: (whole - 2) * 4 + part }[
    rendition.codec
  ]
}

const show = small()
const script = writeEncoderScript(show)
const outputs = {
  LONG_TOUCH_MEADOW_URL: join(folder, 'meadow.flv'),
  RELAYHOUSE_URL: join(folder, 'relay.ts'),
  THIN_URL: join(folder, 'thin.flv'),
  ARCHIVE_FILE: join(folder, 'archive.mkv'),
  NEWER_URL: join(folder, 'newer.ts'),
  NEWEST_FILE: join(folder, 'newest.mkv'),
}

beforeAll(() => {
  const input = join(folder, 'canvas.mkv')
  // Noise over a moving picture, so that the encoders have to spend what they may.
  execFileSync('ffmpeg', [
    ...['-v', 'error', '-f', 'lavfi'],
    ...['-i', `testsrc2=size=640x360:rate=60:duration=${seconds},noise=alls=40:allf=t`],
    ...['-f', 'lavfi', '-i', `sine=frequency=440:duration=${seconds}:sample_rate=48000`],
    ...['-c:v', 'libx264', '-preset', 'ultrafast', '-crf', '12', '-c:a', 'aac', input],
  ])
  const path = join(folder, `show${encoderScriptExtension}`)
  writeFileSync(path, script)
  execFileSync('sh', [path], {
    cwd: folder,
    env: { ...process.env, ...outputs, INPUT_LANDSCAPE: input, INPUT_ARCHIVE_MIX: input },
    stdio: 'inherit',
  })
})
afterAll(() => rmSync(folder, { recursive: true, force: true }))

const [main, thin, newer, newest] = encodesOf(show) as [Encode, Encode, Encode, Encode]

describe('the encoder script', () => {
  it.each([
    ['the send', outputs.LONG_TOUCH_MEADOW_URL, main, 'High', 128],
    ['the send to the relay', outputs.RELAYHOUSE_URL, main, 'High', 128],
    ['the send in HEVC', outputs.NEWER_URL, newer, 'Main', 160],
    ['the recording in AV1', outputs.NEWEST_FILE, newest, 'Main', 160],
    ['the thin send', outputs.THIN_URL, thin, 'Main', 160],
    ['the recording', outputs.ARCHIVE_FILE, main, 'High', 192],
  ] as const)('makes %s as planned', (_, path, { rendition }, profile, audioKbps) => {
    const [video, audio] = ['v:0', 'a:0'].map(
      (stream) =>
        (
          JSON.parse(
            execFileSync(
              'ffprobe',
              ['-v', 'error', '-of', 'json', '-show_streams', '-select_streams', stream, path],
              { encoding: 'utf8' },
            ),
          ) as Probe
        ).streams[0]!,
    ) as [Probe['streams'][number], Probe['streams'][number]]
    expect(video).toMatchObject({
      codec_name: rendition.codec,
      profile,
      width: rendition.width,
      height: rendition.height,
      r_frame_rate: `${rendition.framesPerSecond}/1`,
      level: levelRead(rendition),
    })
    if (rendition.codec !== 'av1') expect(video.has_b_frames === 0).toBe(rendition.bFrames === 0)
    expect(audio).toMatchObject({
      codec_name: 'aac',
      channels: 2,
      sample_rate: `${rendition.audioSampleRateHz}`,
    })
    const packets = (stream: string): { pts_time: string; size: string; flags: string }[] =>
      (
        JSON.parse(
          execFileSync(
            'ffprobe',
            [
              ...['-v', 'error', '-of', 'json', '-select_streams', stream],
              ...['-show_entries', 'packet=pts_time,size,flags', path],
            ],
            { encoding: 'utf8', maxBuffer: 50_000_000 },
          ),
        ) as { packets: { pts_time: string; size: string; flags: string }[] }
      ).packets
    const rateKbps = (stream: string): number =>
      (packets(stream).reduce((sum, { size }) => sum + Number(size), 0) * 8) / 1000 / seconds
    // SVT-AV1 has no constant bitrate of its own; it stays below its target.
    const least = rendition.codec === 'av1' ? 0.7 : 0.85
    expect(rateKbps('v:0') / rendition.videoBitrateKbps).toBeGreaterThan(least)
    // The buffer of one second may be spent on top.
    expect(rateKbps('v:0') / rendition.videoBitrateKbps).toBeLessThan((seconds + 1) / seconds)
    expect(rateKbps('a:0')).toBeLessThan(audioKbps * 1.1)
    const keyframes = packets('v:0')
      .filter(({ flags }) => flags.startsWith('K'))
      .map(({ pts_time: time }) => Number(time))
    const gaps = keyframes.slice(1).map((time, index) => time - keyframes[index]!)
    expect(gaps.length).toBeGreaterThan(0)
    // Encodes that start together have their first interval cut by different amounts, so that keyframes do not coincide.
    for (const gap of gaps.slice(1)) expect(gap).toBeCloseTo(rendition.keyframeIntervalSeconds, 1)
    expect(gaps[0]).toBeLessThan(rendition.keyframeIntervalSeconds + 0.1)
  })

  it('encodes once for all that share, and runs nothing that a name says', () => {
    expect(script.match(/^ffmpeg /gm)).toHaveLength(1)
    expect(script.match(/-f tee/g)).toHaveLength(encodesOf(show).length)
    expect(probe(outputs.ARCHIVE_FILE, 'stream=codec_type').streams).toHaveLength(2)
    expect(() => execFileSync('ls', [join(folder, 'meadow')], { stdio: 'ignore' })).toThrow()
  })

  it('says what is missing instead of starting', () => {
    const path = join(folder, `show${encoderScriptExtension}`)
    expect(() =>
      execFileSync('sh', [path], { env: { PATH: process.env.PATH }, stdio: 'pipe' }),
    ).toThrow(/INPUT_LANDSCAPE/)
  })
})
