import { execFileSync } from 'node:child_process'
import { createReadStream, mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { basename, join } from 'node:path'
import { ownPictureSchema } from '@green-mantle/core/show'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { workFolderName } from '../files/workFolders'
import { run, writeClip } from './clip'
import { measurePicture, type PictureReport } from './measurePicture'
import { onlyJob } from './onlyJob'
import { readMeasures } from './pictureMeasures'
import { isDeep } from '../../tests/tier'

const folder = mkdtempSync(join(tmpdir(), 'green-mantle-clips-'))
const clip = join(folder, 'clip.mp4')
const alone = join(folder, 'sound.mp4')
const ffmpeg = (...args: string[]): void =>
  void execFileSync('ffmpeg', ['-loglevel', 'error', '-nostdin', '-y', ...args])

beforeAll(() => {
  ffmpeg(
    ...['-f', 'lavfi', '-i', 'mandelbrot=size=320x180:rate=30', '-t', '1.2'],
    ...['-c:v', 'libx264', '-preset', 'ultrafast', '-crf', '14', '-pix_fmt', 'yuv420p', clip],
  )
  ffmpeg('-f', 'lavfi', '-i', 'sine', '-t', '1', '-c:a', 'aac', alone)
})
afterAll(() => rmSync(folder, { recursive: true, force: true }))

const left = (): string[] =>
  readdirSync(tmpdir()).filter((name) => name.startsWith(basename(workFolderName('picture'))))

const measure = (
  paths: string | readonly string[],
  told: (report: PictureReport, stop: () => void) => void = () => {},
) => {
  const stopper = new AbortController()
  return measurePicture({
    clips: [paths].flat().map((path) => ({
      name: basename(path),
      pieces: createReadStream(path) as AsyncIterable<Buffer>,
    })),
    signal: stopper.signal,
    report: (report) => told(report, () => stopper.abort()),
  })
}

describe('measuring a picture', () => {
  it('holds real encodes against the clip: more bits are more alike, and what is found can be kept', async () => {
    const picture = await measure(clip)
    expect(ownPictureSchema.parse(picture)).toEqual(picture)
    expect(picture.clip).toEqual({ width: 320, height: 180, framesPerSecond: 30, seconds: 1.2 })
    const whole = picture.points
      .filter(({ width }) => width === 320)
      .sort((a, b) => a.videoBitrateKbps - b.videoBitrateKbps)
    expect(whole).toHaveLength(3)
    for (const measure of ['ssim', 'vif', 'psnrDecibels'] as const)
      expect(whole.at(-1)![measure]).toBeGreaterThan(whole[0]![measure]!)
    expect(picture.spatialInformation).toBeGreaterThan(5)
    expect(left()).toEqual([])
  })

  it.skipIf(!isDeep)(
    'takes a still scene and a lively one as one picture, and refuses two shapes',
    async () => {
      const make = (name: string, source: string): string => {
        const path = join(folder, name)
        ffmpeg(
          ...['-f', 'lavfi', '-i', source, '-t', '1.6', '-c:v', 'libx264', '-preset', 'ultrafast'],
          ...['-crf', '14', '-pix_fmt', 'yuv420p', path],
        )
        return path
      }
      const still = make('still.mp4', 'testsrc2=size=320x180:rate=30,trim=end_frame=1,loop=-1:1')
      const lively = make('lively.mp4', 'mandelbrot=size=640x360:rate=30')
      const few = (paths: string | readonly string[]) =>
        measure(paths, ({ done }, stop) => {
          if (done >= 3) stop()
        })
      const both = await few([still, lively])
      expect(both.name).toBe('still.mp4 and lively.mp4')
      expect(both.clip).toEqual({
        width: 320,
        height: 180,
        framesPerSecond: 30,
        seconds: expect.closeTo(3, 1) as number,
      })
      const [stillAlone, livelyAlone] = [await few(still), await few(lively)]
      expect(both.temporalInformation).toBeGreaterThan(stillAlone.temporalInformation)
      expect(both.temporalInformation).toBeLessThan(livelyAlone.temporalInformation)
      const upright = make('upright.mp4', 'mandelbrot=size=180x320:rate=30')
      await expect(measure([still, upright])).rejects.toThrow(
        'The clips are of different shapes, 320×180 and 180×320.',
      )
      expect(left()).toEqual([])
    },
  )

  it('takes a clip that does not say how long it is, as a browser records it', async () => {
    const path = join(folder, 'recorded.mkv')
    const bytes = execFileSync('ffmpeg', [
      ...['-loglevel', 'error', '-nostdin', '-i', clip, '-c', 'copy', '-f', 'matroska', 'pipe:1'],
    ])
    writeFileSync(path, bytes)
    const probed = ['-v', 'error', '-show_entries', 'format=duration', '-of', 'csv=p=0', path]
    expect(execFileSync('ffprobe', probed, { encoding: 'utf8' }).trim()).toBe('N/A')
    // That it is read is what counts; the other clip is measured to the end.
    const { points, clip: seen } = await measure(path, ({ done }, stop) => {
      if (!isDeep && done >= 4) stop()
    })
    expect(seen.seconds).toBeCloseTo(1.2, 1)
    expect(points.length).toBeGreaterThanOrEqual(isDeep ? 10 : 3)
  })

  it('gives what is known when it is stopped, where that is enough', async () => {
    const picture = await measure(clip, ({ done }, stop) => {
      if (done >= 4) stop()
    })
    expect(picture.points.length).toBeGreaterThanOrEqual(4)
    expect(picture.points.length).toBeLessThan(10)
    await expect(measure(clip, (_, stop) => stop())).rejects.toThrow(/stopped before enough/)
    expect(left()).toEqual([])
  })

  it.each([
    ['has no picture', () => alone],
    [
      'is cut off',
      () => {
        const path = join(folder, 'broken.mp4')
        writeFileSync(
          path,
          Buffer.concat([Buffer.from('\0\0\0\x18ftypisom'), Buffer.alloc(5000, 7)]),
        )
        return path
      },
    ],
  ])('says of a clip that %s that it cannot be decoded, and leaves nothing', async (_, make) => {
    await expect(measure(make())).rejects.toThrow(/no moving picture that can be decoded/)
    expect(left()).toEqual([])
  })
})

describe('a full disk', () => {
  it('is said, by what the file cannot be written to and by what is encoded', async () => {
    const { signal } = new AbortController()
    await expect(
      writeClip('/dev/full', createReadStream(clip) as AsyncIterable<Buffer>),
    ).rejects.toThrow('The clip could not be kept. There is no room left on the disk.')
    await expect(
      run(['-loglevel', 'error', '-y', '-i', clip, '-f', 'rawvideo', '/dev/full'], 'It failed.', {
        folder,
        signal,
      }),
    ).rejects.toThrow('It failed. There is no room left on the disk.')
  })
})

describe('what the encoder program says', () => {
  it('is read of luma, and alike is no number of decibels', () => {
    const said = `[Parsed_ssim_3] SSIM Y:1.000000 (inf) U:1.0 V:1.0 All:1.0 (inf)
[Parsed_psnr_4] PSNR y:inf u:inf v:inf average:inf min:inf max:inf
[Parsed_vif_3] VIF scale=0 average:1.000000 min:1.000000: max:1.000000`
    expect(readMeasures(said)).toEqual({ ssim: 1, vif: 1, psnrDecibels: null })
    expect(() => readMeasures('SSIM Y:0.9')).toThrow(/did not say/)
  })
})

describe('measuring', () => {
  it('goes on one at a time, of whatever kind, and says why it ended', async () => {
    const [one, other] = [onlyJob<string>(), onlyJob<string>()]
    const began = one.begin(({ signal, report }) => {
      report('begun')
      return new Promise((_, reject) =>
        signal.addEventListener('abort', () => reject(new Error('It was stopped.'))),
      )
    })
    expect(began).toBe(true)
    expect(other.begin(() => Promise.resolve())).toBe(false)
    expect(one.state()).toEqual({ going: true, report: 'begun', problem: null })
    await one.stop()
    expect(one.state()).toEqual({ going: false, report: 'begun', problem: 'It was stopped.' })
    expect(other.begin(() => Promise.resolve())).toBe(true)
    await other.stop()
  })
})
