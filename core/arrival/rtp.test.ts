import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { beginsPicture, isStereoOpus, soundBeginsLaterSeconds } from './rtp'

const bytes = (...values: number[]): Uint8Array => Uint8Array.from(values)

describe('a picture begins', () => {
  it('at a keyframe, at its first fragment and at the parameters before it', () => {
    // Single units: 0x65 is a keyframe's slice, 0x67 sequence parameters, 0x41 a slice, 0x68 picture parameters.
    expect(beginsPicture(bytes(0x65, 1))).toBe(true)
    expect(beginsPicture(bytes(0x67, 1))).toBe(true)
    expect(beginsPicture(bytes(0x41, 1))).toBe(false)
    expect(beginsPicture(bytes(0x68, 1))).toBe(false)
    // RFC 6184, 5.8: indicator 0x7c, header with its start bit and the type of what is cut up.
    expect(beginsPicture(bytes(0x7c, 0x85, 1))).toBe(true)
    expect(beginsPicture(bytes(0x7c, 0x05, 1))).toBe(false)
    expect(beginsPicture(bytes(0x7c, 0x81, 1))).toBe(false)
    // RFC 6184, 5.7.1: indicator 0x78, then each unit after its size of two bytes.
    expect(beginsPicture(bytes(0x78, 0, 2, 0x68, 1, 0, 2, 0x65, 1))).toBe(true)
    expect(beginsPicture(bytes(0x78, 0, 2, 0x41, 1, 0, 2, 0x41, 1))).toBe(false)
  })

  it('nowhere in what is damaged, and is looked for no longer than it is', () => {
    expect(beginsPicture(bytes())).toBe(false)
    expect(beginsPicture(bytes(0x78, 0, 0))).toBe(false)
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 300 }), (payload) => {
        expect(typeof beginsPicture(Uint8Array.from([0x78, ...payload]))).toBe('boolean')
      }),
    )
  })
})

it('an Opus packet tells its channels', () => {
  // RFC 6716, 3.1: five bits of configuration, one of stereo, two of the count of frames.
  expect(isStereoOpus(bytes(0b11111_1_00))).toBe(true)
  expect(isStereoOpus(bytes(0b11111_0_11))).toBe(false)
})

describe('sound begins later than the picture', () => {
  const picture = {
    firstTimeStamp: 90_000,
    report: { atSeconds: 1000, timeStamp: 180_000 },
    rateHz: 90_000,
  }

  it('by what their sender’s clock says', () => {
    // The picture began at 999 s; the sound, reported 0.5 s after its beginning, at 999.5 s.
    const sound = {
      firstTimeStamp: 0,
      report: { atSeconds: 1000, timeStamp: 24_000 },
      rateHz: 48_000,
    }
    expect(soundBeginsLaterSeconds(picture, sound)).toBeCloseTo(0.5, 9)
  })

  it('whichever stamps have gone round since', () => {
    const sound = {
      firstTimeStamp: 2 ** 32 - 24_000,
      report: { atSeconds: 1000, timeStamp: 24_000 },
      rateHz: 48_000,
    }
    expect(soundBeginsLaterSeconds(picture, sound)).toBeCloseTo(0, 9)
  })
})
