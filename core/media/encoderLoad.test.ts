import { describe, expect, it } from 'vitest'
import { bitsPerPixel, bitsPerPixelWord } from './bitsPerPixel'
import { encoderLoad, megapixelsPerSecond } from './encoderLoad'

describe('encoder load', () => {
  const encode = {
    rendition: { width: 1920, height: 1080, framesPerSecond: 60 as const },
    throughputMegapixelsPerSecond: 250,
  }

  it('is pixels times frames over throughput', () => {
    expect(megapixelsPerSecond(encode.rendition)).toBeCloseTo(124.416, 9)
    expect(encoderLoad([encode])).toBeCloseTo(124.416 / 250, 9)
    expect(encoderLoad([])).toBe(0)
  })

  // Common practice, no published source: three separate encodes take three times the processing of one.
  it('of three encodes is three times that of one', () => {
    expect(encoderLoad([encode, encode, encode])).toBeCloseTo(3 * encoderLoad([encode]), 9)
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
