import { execFileSync } from 'node:child_process'
import { existsSync, mkdtempSync, readdirSync, rmSync, symlinkSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { basename, join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { cutRecordings } from './cutRecordings'

const outside = mkdtempSync(join(tmpdir(), 'green-mantle-outside-'))
const folder = mkdtempSync(join(tmpdir(), 'green-mantle-cuts-'))
const recording = join(folder, 'Night, Archive.mkv')

beforeAll(() => {
  execFileSync('ffmpeg', [
    ...[
      '-loglevel',
      'error',
      '-nostdin',
      '-y',
      '-f',
      'lavfi',
      '-i',
      'testsrc2=size=160x90:rate=30:duration=8',
    ],
    ...['-f', 'lavfi', '-i', 'sine=duration=8', '-c:v', 'libx264', '-g', '30', '-c:a', 'aac'],
    recording,
  ])
  writeFileSync(join(outside, 'secret.mkv'), 'not for anybody')
})
afterAll(() => {
  rmSync(folder, { recursive: true, force: true })
  rmSync(outside, { recursive: true, force: true })
})

const probed = (file: string, entries: string): string =>
  execFileSync('ffprobe', ['-v', 'error', '-show_entries', entries, '-of', 'csv=p=0', file], {
    encoding: 'utf8',
  })

describe('cutting recordings', () => {
  it('copies a stretch into a file beside, as ffprobe reads it, once', async () => {
    const cut = { file: recording, name: 'First / bloom', fromSeconds: 3.4, lengthSeconds: 2.5 }
    const { files, problems } = await cutRecordings([cut], folder)
    expect(problems).toEqual([])
    expect(files.map((file) => basename(file))).toEqual([
      'Night, Archive, 0-00-03 to 0-00-05, First bloom.mkv',
    ])
    const seconds = Number.parseFloat(probed(files[0]!, 'format=duration'))
    // From the keyframe before, at 3 s, to the end of the stretch.
    expect(seconds).toBeGreaterThan(2.4)
    expect(seconds).toBeLessThan(3.1)
    expect(
      probed(files[0]!, 'stream=codec_name')
        .trim()
        .split('\n')
        .map((line) => line.trim()),
    ).toEqual(['h264', 'aac'])
    expect((await cutRecordings([cut], folder)).files).toEqual(files)
    expect(readdirSync(folder)).toHaveLength(2)
  })

  it('takes two that begin at the same second for two, and the same asked for twice at once for one', async () => {
    const cut = (lengthSeconds: number) => ({
      file: recording,
      name: '',
      fromSeconds: 0,
      lengthSeconds,
    })
    const [first, second] = await Promise.all([
      cutRecordings([cut(2), cut(4)], folder),
      cutRecordings([cut(4), cut(2)], folder),
    ])
    expect(first.problems).toEqual([])
    expect(new Set([...first.files, ...second.files]).size).toBe(2)
    const lengths = first.files.map((file) => Number.parseFloat(probed(file, 'format=duration')))
    expect(lengths[0]).toBeCloseTo(2, 0)
    expect(lengths[1]).toBeCloseTo(4, 0)
    expect(readdirSync(folder).filter((name) => name.endsWith('.part'))).toEqual([])
  })

  it('reads nothing outside its folder, by whatever way it is named', async () => {
    symlinkSync(outside, join(folder, 'elsewhere'))
    const named = [
      join(outside, 'secret.mkv'),
      join(folder, '..', basename(outside), 'secret.mkv'),
      join(folder, 'elsewhere', 'secret.mkv'),
      'concat:/etc/passwd',
      folder,
    ]
    for (const file of named) {
      const cut = { file, name: '', fromSeconds: 0, lengthSeconds: 1 }
      const { files, problems } = await cutRecordings([cut], folder)
      expect(files).toEqual([])
      expect(problems[0]).toMatch(/not in the folder of recordings/)
    }
    expect(readdirSync(outside)).toEqual(['secret.mkv'])
  })

  it('says what could not be cut, and leaves no half of it', async () => {
    const file = join(folder, 'gone.mkv')
    const { files, problems } = await cutRecordings(
      [{ file, name: '', fromSeconds: 0, lengthSeconds: 1 }],
      folder,
    )
    expect(files).toEqual([])
    expect(problems[0]).toMatch(/^gone\.mkv: /)
    expect(existsSync(`${file}.part`)).toBe(false)
  })
})
