import { execFile } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { promisify } from 'node:util'
import {
  type Arrival,
  type ArrivalReport,
  frameLineReader,
  nothingArrived,
  reportOf,
  takeFrame,
} from '@green-mantle/core/arrival'
import Flv from 'node-media-server/src/protocol/flv.js'
import { afterAll, describe, expect, it } from 'vitest'
import { flvArrival } from './flvArrival'
import { casesOf } from '../../tests/tier'

/*
 * What a listener finds, against what Debian's ffprobe says of the same bytes kept in a file: an
 * implementation of its own, by others.
 */
const run = promisify(execFile)
const folder = mkdtempSync(join(tmpdir(), 'green-mantle-probe-'))
afterAll(() => rmSync(folder, { recursive: true, force: true }))

interface Stream {
  name: string
  kind: 'flv' | 'mpegts'
  video?: string[]
  audio?: string[] | null
  rate?: number
  size?: string
}
const x264 = (...more: string[]): string[] => ['-c:v', 'libx264', '-preset', 'ultrafast', ...more]
const x265 = (params: string, ...more: string[]): string[] => [
  ...['-c:v', 'libx265', '-preset', 'ultrafast', ...more],
  ...['-x265-params', `log-level=none:${params}`],
]
const streams: Stream[] = [
  { name: 'baseline', kind: 'flv', video: x264('-profile:v', 'baseline', '-g', '30') },
  { name: 'main', kind: 'flv', video: x264('-profile:v', 'main', '-bf', '1', '-g', '45') },
  { name: 'high', kind: 'flv', video: x264('-profile:v', 'high', '-bf', '3', '-g', '60') },
  { name: 'no B-frames', kind: 'flv', video: x264('-bf', '0', '-g', '15') },
  { name: 'one keyframe', kind: 'flv', video: x264('-bf', '2', '-g', '900') },
  { name: 'keyframes at cuts', kind: 'flv', video: x264('-g', '120', '-sc_threshold', '40') },
  { name: '60 fps', kind: 'flv', rate: 60, video: x264('-bf', '2', '-g', '120') },
  { name: '25 fps', kind: 'flv', rate: 25, video: x264('-g', '50') },
  { name: 'an odd size', kind: 'flv', size: '322x182', video: x264('-g', '60') },
  { name: 'vertical', kind: 'flv', size: '180x320', video: x264('-g', '60') },
  {
    name: 'constant bitrate',
    kind: 'flv',
    video: x264(
      '-b:v',
      '600k',
      '-minrate',
      '600k',
      '-maxrate',
      '600k',
      '-bufsize',
      '300k',
      '-nal-hrd',
      'cbr',
    ),
  },
  {
    name: 'halves of lines',
    kind: 'flv',
    video: x264('-bf', '2', '-flags', '+ilme+ildct', '-x264-params', 'tff=1', '-g', '60'),
  },
  { name: 'variable bitrate', kind: 'flv', video: x264('-crf', '30', '-g', '60') },
  { name: 'mono at 44.1 kHz', kind: 'flv', audio: ['-ac', '1', '-ar', '44100', '-b:a', '64k'] },
  { name: 'no sound', kind: 'flv', audio: null },
  { name: 'a level of its own', kind: 'flv', video: x264('-level:v', '4.2', '-g', '60') },
  { name: 'closed groups', kind: 'mpegts', video: x264('-bf', '2', '-g', '45') },
  {
    name: 'open groups',
    kind: 'mpegts',
    video: x264('-bf', '2', '-g', '45', '-x264-params', 'open-gop=1'),
  },
  { name: 'HEVC', kind: 'mpegts', video: x265('keyint=45:min-keyint=45:bframes=2:open-gop=0') },
  { name: 'HEVC without B-frames', kind: 'mpegts', video: x265('keyint=30:bframes=0:open-gop=0') },
  {
    name: 'HEVC at 50 fps',
    kind: 'mpegts',
    rate: 50,
    video: x265('keyint=100:bframes=3:open-gop=0'),
  },
  {
    name: 'sound at 48 kHz, 192 kb/s',
    kind: 'mpegts',
    audio: ['-ac', '2', '-ar', '48000', '-b:a', '192k'],
  },
]

/** Each profile, codec and container once, with sound and without. */
const kinds = new Set(['baseline', 'halves of lines', 'high', 'no sound', 'open groups', 'HEVC'])

async function make({ name, kind, rate = 30, size = '320x180', video, audio }: Stream) {
  const path = join(folder, `${name.replaceAll(/\W/g, '-')}.${kind}`)
  await run('ffmpeg', [
    ...['-v', 'error', '-f', 'lavfi', '-i'],
    `testsrc2=size=${size}:rate=${rate}:duration=4,noise=alls=10:allf=t`,
    ...(audio === null ? [] : ['-f', 'lavfi', '-i', 'sine=sample_rate=48000:duration=4']),
    ...['-pix_fmt', 'yuv420p', ...(video ?? x264('-g', '60'))],
    ...(audio === null ? [] : ['-c:a', 'aac', ...(audio ?? ['-ac', '2'])]),
    ...['-f', kind, path],
  ])
  return path
}

/** The bytes of a file as a listener takes them: an FLV file holds what RTMP carries. */
async function heard(path: string, kind: Stream['kind']): Promise<Arrival> {
  if (kind === 'flv') {
    const { arrival, take } = flvArrival(() => 0)
    const flv = new Flv()
    flv.onPacketCallback = take
    expect(flv.parserData(readFileSync(path))).toBeNull()
    return arrival
  }
  const { stdout } = await run(
    'ffmpeg',
    ['-v', 'error', '-copyts', '-i', path, '-map', '0', '-c', 'copy', '-f', 'framecrc', '-'],
    { maxBuffer: 50_000_000 },
  )
  const arrival = nothingArrived()
  const lines = frameLineReader()
  for (const frame of lines.read(stdout, 0)) takeFrame(arrival, frame)
  arrival.picture = lines.picture()
  arrival.sound = lines.sound()
  return arrival
}

interface Probed {
  streams: Record<string, string | number>[]
  packets: Record<string, string>[]
}
async function probe(path: string): Promise<Probed> {
  const { stdout } = await run(
    'ffprobe',
    [
      ...['-v', 'error', '-of', 'json', '-show_streams', '-show_entries'],
      ...['packet=codec_type,pts_time,dts_time,size,flags', path],
    ],
    { maxBuffer: 50_000_000 },
  )
  return JSON.parse(stdout) as Probed
}

describe('a listener finds what ffprobe finds', () => {
  it.each(
    casesOf(streams, ({ name }) => kinds.has(name)).map((stream) => [stream.name, stream] as const),
  )('%s', async (_, stream) => {
    const path = await make(stream)
    const [arrival, { streams: probed, packets }] = await Promise.all([
      heard(path, stream.kind),
      probe(path),
    ])
    const report = reportOf(arrival, 0) as ArrivalReport
    const video = probed.find(({ codec_type: type }) => type === 'video')!
    const audio = probed.find(({ codec_type: type }) => type === 'audio')
    expect(report.picture).toMatchObject({
      codec: video.codec_name,
      width: video.width,
      height: video.height,
    })
    const [frames, seconds] = `${video.r_frame_rate}`.split('/').map(Number) as [number, number]
    expect(report.picture!.framesPerSecond).toBeCloseTo(frames / seconds, 1)
    if (stream.kind === 'flv') {
      expect(report.picture!.profile).toBe(video.profile)
      expect(Number(report.picture!.level)).toBeCloseTo(Number(video.level) / 10, 9)
      expect(arrival.picture!.isInterlaced).toBe(/^[tb]{2}$/.test(`${video.field_order}`))
      expect(arrival.picture!.isInterlaced).toBe(stream.name === 'halves of lines')
    }
    expect(report.picture!.bFrames === 0).toBe(video.has_b_frames === 0)
    const pictures = packets.filter(({ codec_type: type }) => type === 'video')
    expect(arrival.videoFrames).toBe(pictures.length)
    const bytes = pictures.reduce((sum, { size }) => sum + Number(size), 0)
    const own = arrival.frames
      .filter(({ kind }) => kind === 'video')
      .reduce((sum, each) => sum + each.bytes, 0)
    expect(Math.abs(own - bytes) / bytes).toBeLessThan(0.005)
    const keys = pictures
      .filter(({ flags }) => flags!.startsWith('K'))
      .map(({ dts_time: time, pts_time: shown }) => Number(time ?? shown))
    const gaps = keys.slice(1).map((time, index) => time - keys[index]!)
    if (gaps.length === 0) expect(report.picture!.longestKeyframeSpacingSeconds).toBeNull()
    else {
      expect(report.picture!.longestKeyframeSpacingSeconds).toBeCloseTo(Math.max(...gaps), 2)
      expect(report.picture!.shortestKeyframeSpacingSeconds).toBeCloseTo(Math.min(...gaps), 2)
    }
    if (!audio) expect(report.sound).toBeNull()
    else
      expect(report.sound).toMatchObject({
        codec: audio.codec_name,
        sampleRateHz: Number(audio.sample_rate),
        channels: audio.channels,
      })
    expect(report.picture!.hasOpenGroups).toBe(stream.name.includes('open'))
  })

  it('nothing in bytes that are none', async () => {
    const { arrival, take } = flvArrival(() => 0)
    const flv = new Flv()
    flv.onPacketCallback = take
    flv.parserData(Buffer.alloc(50_000, 7))
    expect(reportOf(arrival, 1)).toBeNull()
    expect(frameLineReader().read('not,a,list\n#tb 0: x\n0, 1, 2\n', 0)).toEqual([])
  })
})
