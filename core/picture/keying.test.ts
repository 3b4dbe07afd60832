import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { type ChromaKey, defaultChromaKey } from '../show'
import { chroma, colourFromHex, hexFromColour, keyedAlpha, makeKeyer } from './keying'

const key = (changes: Partial<ChromaKey> = {}): ChromaKey => ({ ...defaultChromaKey, ...changes })
const part = fc.integer({ min: 0, max: 255 })
const anyPixel = fc.tuple(part, part, part)
const anyKey = fc
  .record({
    colour: anyPixel,
    similarityPercent: fc.integer({ min: 0, max: 100 }),
    smoothnessPercent: fc.integer({ min: 0, max: 100 }),
    spillPercent: fc.integer({ min: 0, max: 100 }),
  })
  .map(({ colour: [red, green, blue], ...rest }) =>
    key({
      ...rest,
      colour: hexFromColour({ red: red / 255, green: green / 255, blue: blue / 255 }),
    }),
  )
const keyed = ([red, green, blue]: readonly [number, number, number], by: ChromaKey) => {
  const pixels = new Uint8ClampedArray([red, green, blue, 255])
  makeKeyer(by)(pixels)
  return [...pixels]
}

describe('colour differences (ITU-R BT.709, from memory)', () => {
  it.each([
    // The primaries at full strength, from the standard's equations.
    ['#ff0000', -0.1146, 0.5],
    ['#00ff00', -0.3854, -0.4542],
    ['#0000ff', 0.5, -0.0458],
    ['#808080', 0, 0],
    ['#ffffff', 0, 0],
  ])('of %s', (hex, blue, red) => {
    const found = chroma(colourFromHex(hex))
    expect(found.blue).toBeCloseTo(blue, 3)
    expect(found.red).toBeCloseTo(red, 3)
  })

  it('come back from and go to hexadecimal', () => {
    fc.assert(
      fc.property(anyPixel, ([red, green, blue]) => {
        const hex = hexFromColour({ red: red / 255, green: green / 255, blue: blue / 255 })
        expect(hexFromColour(colourFromHex(hex))).toBe(hex)
      }),
    )
  })
})

describe('keying', () => {
  it('takes the backdrop away and leaves skin and white', () => {
    expect(keyed([0x3a, 0xb5, 0x4a], key())[3]).toBe(0)
    expect(keyed([216, 162, 124], key())[3]).toBe(255)
    expect(keyed([255, 255, 255], key())).toEqual([255, 255, 255, 255])
  })

  it('does not mind how bright the backdrop is lit', () => {
    // The same colour at three quarters of its light: its differences shrink with it.
    expect(keyed([0x2c, 0x88, 0x38], key())[3]).toBeLessThan(60)
  })

  it('takes a blue backdrop’s light out of what stays', () => {
    const blue = key({ colour: '#2030ff', similarityPercent: 5, smoothnessPercent: 0 })
    expect(keyed([120, 110, 200], { ...blue, spillPercent: 100 })).toEqual([120, 110, 115, 255])
    expect(keyed([120, 110, 200], { ...blue, spillPercent: 0 })).toEqual([120, 110, 200, 255])
  })

  it('makes nothing more opaque than it was, and nothing brighter', () => {
    fc.assert(
      fc.property(anyPixel, anyKey, (pixel, by) => {
        const [red, green, blue, alpha] = keyed(pixel, by)
        expect(alpha).toBeLessThanOrEqual(255)
        expect(red).toBeLessThanOrEqual(pixel[0])
        expect(green).toBeLessThanOrEqual(pixel[1])
        expect(blue).toBeLessThanOrEqual(pixel[2])
      }),
    )
  })

  it('says the same by its table as by the formula, to what 8 bits distinguish', () => {
    fc.assert(
      fc.property(anyPixel, anyKey, (pixel, by) => {
        // A hard edge may fall to either side of it.
        fc.pre(by.smoothnessPercent >= 10)
        const [red, green, blue] = pixel
        const exact = keyedAlpha({ red: red / 255, green: green / 255, blue: blue / 255 }, by)
        const steps = 1 + (100 / by.smoothnessPercent) * 1.5
        expect(Math.abs(keyed(pixel, by)[3]! - exact * 255)).toBeLessThan(steps + 1)
      }),
    )
  })

  it('keeps more the smaller the similarity', () => {
    fc.assert(
      fc.property(anyPixel, anyKey, part, (pixel, by, less) => {
        const smaller = { ...by, similarityPercent: Math.min(by.similarityPercent, less % 100) }
        expect(keyed(pixel, smaller)[3]).toBeGreaterThanOrEqual(keyed(pixel, by)[3]!)
      }),
    )
  })
})
