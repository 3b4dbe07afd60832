import { describe, expect, it } from 'vitest'
import { bitsPerPixel, bitsPerPixelWord } from './bitsPerPixel'
import { encoderLoad, megapixelsPerSecond } from './encoderLoad'

describe('encoder load', () => {
  const rendition = { width: 1920, height: 1080, framesPerSecond: 60 as const }
  const cost = { megapixelsPerSecond: 250 }

  it('is pixels times frames over throughput', () => {
    expect(megapixelsPerSecond(rendition)).toBeCloseTo(124.416, 9)
    expect(encoderLoad(rendition, cost)).toBeCloseTo(124.416 / 250, 9)
  })

  it('has what every frame costs besides, and what several cost together', () => {
    // 60 frames at 1.5 ms are 90 ms of every second.
    const withFrames = { ...cost, millisecondsAFrame: 1.5 }
    expect(encoderLoad(rendition, withFrames)).toBeCloseTo(124.416 / 250 + 0.09, 9)
    expect(encoderLoad(rendition, withFrames, 1.2)).toBeCloseTo((124.416 / 250 + 0.09) * 1.2, 9)
  })

  // Measured by us on x264, 2026: with 1.7 ms a frame a small picture costs many times its pixels' worth.
  it('makes a small picture dearer than its pixels', () => {
    const small = { width: 426, height: 240, framesPerSecond: 30 as const }
    const byPixels = encoderLoad(small, { megapixelsPerSecond: 900 })
    expect(
      encoderLoad(small, { megapixelsPerSecond: 900, millisecondsAFrame: 1.7 }),
    ).toBeGreaterThan(10 * byPixels)
  })
})

describe('bits per pixel', () => {
  it('is bits over pixels times frames', () => {
    const value = bitsPerPixel({
      width: 1280,
      height: 720,
      framesPerSecond: 30,
      videoBitrateKbps: 2765,
    })
    expect(value).toBeCloseTo(0.1, 3)
  })

  // Common practice for H.264, no published source.
  it.each([
    [0.12, 'h264', 'comfortable'],
    [0.1, 'h264', 'comfortable'],
    [0.07, 'h264', 'enough'],
    [0.05, 'h264', 'thin'],
    // Newer codecs get more out of a bit, by our working values.
    [0.05, 'hevc', 'enough'],
    [0.035, 'hevc', 'thin'],
    [0.035, 'av1', 'enough'],
  ] as const)('%f of %s is %s', (value, codec, word) => {
    expect(bitsPerPixelWord(value, codec)).toBe(word)
  })
})
