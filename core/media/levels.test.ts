import { execFileSync } from 'node:child_process'
import { describe, expect, it } from 'vitest'
import type { Codec, Rendition } from '../show'
import { isLevelAbove, levelsOf, lowestLevel } from './levels'
import { casesOf } from '../../tests/tier'

const picture = (
  codec: Codec,
  width: number,
  height: number,
  framesPerSecond: Rendition['framesPerSecond'],
  videoBitrateKbps = 1000,
) => ({ codec, width, height, framesPerSecond, videoBitrateKbps })

describe('lowest level, H.264', () => {
  // ITU-T H.264 Annex A, Table A-1; written down from memory, checked against an encoder below.
  it.each([
    [1280, 720, 30, '3.1'],
    [1280, 720, 60, '3.2'],
    [1920, 1080, 30, '4'],
    [1920, 1080, 60, '4.2'],
    [1080, 1920, 30, '4'],
    [1080, 1920, 60, '4.2'],
    [2560, 1440, 60, '5.1'],
    [3840, 2160, 30, '5.1'],
    [3840, 2160, 60, '5.2'],
  ] as const)('%i×%i at %i is level %s', (width, height, framesPerSecond, level) => {
    expect(lowestLevel(picture('h264', width, height, framesPerSecond))).toBe(level)
  })

  it('allows the High profile 1.25 times the bitrate of Main', () => {
    expect(lowestLevel(picture('h264', 1280, 720, 30, 17_500))).toBe('3.1')
    expect(lowestLevel(picture('h264', 1280, 720, 30, 17_501))).toBe('3.2')
  })

  it('limits each side to √(8 · MaxFS) macroblocks', () => {
    // Level 3: √(8 · 1620) = 113.8, so 113 macroblocks across are admitted and 114 are not.
    expect(lowestLevel(picture('h264', 113 * 16, 160, 24))).toBe('3')
    expect(lowestLevel(picture('h264', 114 * 16, 160, 24))).toBe('3.1')
  })

  it('has no level for what is too much for the highest', () => {
    expect(lowestLevel(picture('h264', 7680, 4320, 60, 1_000_001))).toBeNull()
  })
})

describe('lowest level, HEVC and AV1', () => {
  // ITU-T H.265 Annex A and AV1 specification Annex A; written down from memory.
  it.each([
    ['hevc', 1280, 720, 30, '3.1'],
    ['hevc', 1920, 1080, 30, '4'],
    ['hevc', 1920, 1080, 60, '4.1'],
    ['hevc', 3840, 2160, 30, '5'],
    ['hevc', 3840, 2160, 60, '5.1'],
    ['av1', 1280, 720, 30, '3.1'],
    ['av1', 1920, 1080, 30, '4.0'],
    ['av1', 1920, 1080, 60, '4.1'],
    ['av1', 3840, 2160, 60, '5.1'],
  ] as const)('%s %i×%i at %i is level %s', (codec, width, height, framesPerSecond, level) => {
    expect(lowestLevel(picture(codec, width, height, framesPerSecond))).toBe(level)
  })

  it('holds AV1 to its largest width and height', () => {
    expect(lowestLevel(picture('av1', 1080, 1920, 30))).toBe('4.0')
    expect(lowestLevel(picture('av1', 160, 3500, 30))).toBe('5.0')
  })
})

describe('against an encoder', () => {
  /** The level that x264, through FFmpeg, writes into a stream of two frames; one reference frame, as its buffer also sets a level. */
  function encodedLevel(width: number, height: number, framesPerSecond: number): string {
    const stream = execFileSync('ffmpeg', [
      ...['-v', 'error', '-f', 'lavfi'],
      ...['-i', `color=size=${width}x${height}:rate=${framesPerSecond}`],
      ...['-frames:v', '2', '-c:v', 'libx264', '-preset', 'ultrafast', '-f', 'h264', '-'],
    ])
    const probed = execFileSync(
      'ffprobe',
      ['-v', 'error', '-show_entries', 'stream=level', '-of', 'csv=p=0', '-f', 'h264', '-'],
      { input: stream, encoding: 'utf8' },
    )
    return String(Number.parseInt(probed, 10) / 10)
  }

  const sizes = [
    [640, 360, 30],
    [1280, 720, 30],
    [1280, 720, 60],
    [1920, 1080, 30],
    [1920, 1080, 60],
    [1080, 1920, 30],
    [2560, 1440, 60],
  ] as const
  it.each(casesOf(sizes, ([width]) => width < 1280))(
    'x264 chooses the same for %i×%i at %i',
    (width, height, framesPerSecond) => {
      expect(lowestLevel(picture('h264', width, height, framesPerSecond))).toBe(
        encodedLevel(width, height, framesPerSecond),
      )
    },
  )
})

describe('comparing levels', () => {
  it('compares as numbers', () => {
    expect(isLevelAbove('4.2', '4')).toBe(true)
    expect(isLevelAbove('4.0', '4')).toBe(false)
    expect(isLevelAbove('3.1', '4')).toBe(false)
  })

  it.each(['h264', 'hevc', 'av1'] as const)('lists the levels of %s from low to high', (codec) => {
    const levels = levelsOf(codec).map(Number)
    expect(levels).toEqual(levels.toSorted((a, b) => a - b))
  })
})
