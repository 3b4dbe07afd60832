import { execFileSync, spawn } from 'node:child_process'
import { once } from 'node:events'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { OnAirMessage } from '@green-mantle/core/on-air'
import { unitsOf } from '@green-mantle/core/on-air'
import { afterAll, describe, expect, it } from 'vitest'
import { OnAirCanvas } from './onAirCanvas'

const folder = mkdtempSync(join(tmpdir(), 'green-mantle-on-air-'))
afterAll(() => rmSync(folder, { recursive: true, force: true }))

const size = { width: 320, height: 180 }
const framesPerSecond = 30
const startCode = Uint8Array.of(0, 0, 0, 1)

/** Encoded pictures with start codes, as a browser's encoder gives them; of one colour where that is named. */
function encoded(seconds: number, source: string): { isKey: boolean; bytes: Uint8Array }[] {
  const stream = execFileSync('ffmpeg', [
    ...['-v', 'error', '-f', 'lavfi', '-i', `${source}=size=320x180:rate=30:duration=${seconds}`],
    ...['-c:v', 'libx264', '-preset', 'ultrafast', '-tune', 'zerolatency', '-g', '30'],
    ...['-pix_fmt', 'yuv420p', '-x264-params', 'aud=1:sliced-threads=0:scenecut=0'],
    ...['-f', 'h264', '-'],
  ])
  const pictures: { isKey: boolean; bytes: Uint8Array }[] = []
  for (const unit of unitsOf(stream)) {
    const type = (unit[0] as number) & 0x1f
    if (type === 9) pictures.push({ isKey: false, bytes: new Uint8Array(0) })
    const picture = pictures.at(-1)
    if (!picture) continue
    picture.isKey ||= type === 5
    picture.bytes = Uint8Array.from([...picture.bytes, ...startCode, ...unit])
  }
  return pictures
}

interface Written {
  kind: string
  at: number
  isKey: boolean
}
/** What the encoder program makes of what is written to it, read by its own copy of it in a file. */
async function copied(work: (canvas: OnAirCanvas, at: (now: number) => void) => void) {
  const file = join(folder, `${Math.random()}.mkv`)
  const program = spawn('ffmpeg', [
    ...['-v', 'error', '-y', '-f', 'matroska', '-i', 'pipe:0', '-map', '0', '-c', 'copy', file],
  ])
  let now = 0
  const said: string[] = []
  const canvas = new OnAirCanvas({
    feed: { input: program.stdin, start: () => {} },
    ...{ size, framesPerSecond, clock: () => now },
    told: (what) => said.push(what),
  })
  work(canvas, (milliseconds) => (now = milliseconds))
  program.stdin.end()
  const errors: string[] = []
  program.stderr.setEncoding('utf8').on('data', (text: string) => errors.push(text))
  await once(program, 'exit')
  const listed = JSON.parse(
    execFileSync('ffprobe', [
      ...['-v', 'error', '-of', 'json', '-show_streams', '-show_packets', file],
    ]).toString(),
  ) as {
    streams: Record<string, string | number>[]
    packets: { codec_type: string; stream_index: number; pts_time: string; flags: string }[]
  }
  const decoded = execFileSync('ffmpeg', [
    ...['-v', 'error', '-i', file, '-map', '0:v', '-f', 'framecrc', '-'],
  ]).toString()
  const packets = listed.packets.map(
    ({ codec_type: kind, stream_index: stream, pts_time: at, flags }): Written => ({
      kind: kind === 'video' ? 'picture' : `sound ${stream}`,
      at: Number(at),
      isKey: flags.startsWith('K'),
    }),
  )
  return { ...listed, packets, said, errors, decodedFrames: decoded.match(/^0,/gm)?.length ?? 0 }
}

const pictureAt = (index: number, part: { isKey: boolean; bytes: Uint8Array }): OnAirMessage => ({
  ...{ kind: 'picture', canvas: 'landscape', lane: 0, ...part },
  atMicroseconds: 3_000_000 + (index * 1e6) / framesPerSecond,
})

describe('a canvas into the encoder program', () => {
  it('is read whole: every picture at its time, both mixes beside it', async () => {
    const pictures = encoded(2, 'testsrc2')
    const found = await copied((canvas, at) => {
      pictures.forEach((part, index) => {
        at((index * 1000) / framesPerSecond)
        canvas.take(pictureAt(index, part))
        for (const mix of ['live', 'archive'] as const)
          canvas.take({
            ...{ kind: 'sound', mix, firstSample: 144_000 + index * 1600 },
            bytes: new Uint8Array(1600 * 4).fill(mix === 'live' ? 1 : 2),
          })
      })
    })
    expect(found.errors).toEqual([])
    expect(found.streams.map((stream) => stream.codec_name)).toEqual([
      'h264',
      'pcm_s16le',
      'pcm_s16le',
    ])
    expect(found.streams[0]).toMatchObject(size)
    const shown = found.packets.filter(({ kind }) => kind === 'picture')
    expect(shown).toHaveLength(60)
    shown.forEach(({ at, isKey }, index) => {
      expect(Math.abs(at - index / framesPerSecond)).toBeLessThan(0.002)
      expect(isKey).toBe(index % 30 === 0)
    })
    expect(found.decodedFrames).toBe(60)
  })

  it('goes on with the standby scene, and a window that comes back joins: one stream that decodes whole', async () => {
    const [pictures, still] = [encoded(1, 'testsrc2'), encoded(0.5, 'yuvtestsrc')]
    const again = encoded(1, 'smptebars')
    const found = await copied((canvas, at) => {
      still.forEach(({ bytes }, index) =>
        canvas.take({ kind: 'standby', canvas: 'landscape', lane: 0, index, bytes }),
      )
      pictures.forEach((part, index) => {
        at((index * 1000) / framesPerSecond)
        canvas.take(pictureAt(index, part))
      })
      canvas.left()
      for (let now = 1000; now <= 5000; now += 60) {
        at(now)
        canvas.tick()
      }
      again.forEach((part, index) => {
        at(5000 + (index * 1000) / framesPerSecond)
        canvas.take(pictureAt(index, part))
      })
    })
    expect(found.errors).toEqual([])
    expect(found.said).toEqual(['standby', 'back'])
    const times = found.packets.filter(({ kind }) => kind === 'picture').map(({ at }) => at)
    times.slice(1).forEach((time, index) => {
      expect(time).toBeGreaterThan(times[index]!)
      expect(time - times[index]!).toBeLessThan(1)
    })
    expect(times.at(-1)!).toBeGreaterThan(5.8)
    expect(found.decodedFrames).toBe(times.length)
  })

  it('begins at a keyframe that says how it is decoded, and makes the encoder anew at one', () => {
    let starts = 0
    const written: Buffer[] = []
    const input = () =>
      ({
        ...{ writable: true, writableLength: 0, on: () => {} },
        write: (bytes: Uint8Array) => written.push(Buffer.from(bytes)),
      }) as unknown as NonNullable<ConstructorParameters<typeof OnAirCanvas>[0]['feed']['input']>
    const feed = {
      input: null as ReturnType<typeof input> | null,
      start() {
        starts += 1
        this.input = input()
      },
    }
    let now = 0
    const canvas = new OnAirCanvas({
      ...{ feed, size, framesPerSecond, clock: () => now, told: () => {} },
    })
    const pictures = encoded(3, 'testsrc2')
    const send = (from: number, to: number): void =>
      pictures.slice(from, to).forEach((part, index) => {
        now = ((from + index) * 1000) / framesPerSecond
        canvas.take(pictureAt(from + index, part))
      })
    send(1, 20)
    expect([starts, written.length]).toEqual([0, 0])
    send(30, 40)
    expect(starts).toBe(1)
    // The encoder has ended: nothing is written until there is a keyframe for the next one.
    feed.input = null
    const before = written.length
    send(40, 59)
    expect(written).toHaveLength(before)
    send(60, 62)
    expect(starts).toBe(2)
    expect(written.length).toBeGreaterThan(before)
  })

  it('leaves whole groups out where the encoder does not keep up, and says so', () => {
    const said: string[] = []
    let [waiting, writes] = [0, 0]
    const input = {
      ...{ writable: true, on: () => {}, write: () => (writes += 1) },
      get writableLength() {
        return waiting
      },
    } as unknown as NonNullable<ConstructorParameters<typeof OnAirCanvas>[0]['feed']['input']>
    let now = 0
    const canvas = new OnAirCanvas({
      feed: { input, start: () => {} },
      ...{ size, framesPerSecond, clock: () => now, told: (what) => said.push(what) },
    })
    const pictures = encoded(3, 'testsrc2')
    pictures.forEach((part, index) => {
      now = (index * 1000) / framesPerSecond
      waiting = index >= 10 && index < 40 ? 30_000_000 : 0
      const before = writes
      canvas.take(pictureAt(index, part))
      // From the tenth on up to the first keyframe after there is room again.
      if (index >= 10 && index < 60) expect(writes).toBe(before)
    })
    expect(said).toEqual(['too slow'])
    expect(canvas.leftOut).toBe(50)
  })
})
