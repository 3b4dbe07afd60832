import fc from 'fast-check'
import { expect, it } from 'vitest'
import { configurationRecord, lengthPrefixed, unitsOf } from './annexB'

/** A unit holds no start code, and ends in no zero (ITU-T H.264, 7.4.1). */
const unit = fc
  .array(fc.integer({ min: 1, max: 255 }), { minLength: 1, maxLength: 20 })
  .map((bytes) => Uint8Array.from(bytes))
const startCode = fc.constantFrom([0, 0, 1], [0, 0, 0, 1])

it('finds the units of a byte stream, however long their start codes are', () => {
  fc.assert(
    fc.property(fc.array(fc.tuple(startCode, unit), { maxLength: 8 }), (parts) => {
      const stream = Uint8Array.from(parts.flatMap(([code, bytes]) => [...code, ...bytes]))
      const units = unitsOf(stream)
      expect(units.map((each) => [...each])).toEqual(parts.map(([, bytes]) => [...bytes]))
      const prefixed = lengthPrefixed(units)
      expect(prefixed.length).toBe(units.reduce((sum, each) => sum + 4 + each.length, 0))
    }),
  )
})

it('describes a stream by the sets of its keyframe, and nothing without them', () => {
  const sequence = Uint8Array.of(0x67, 100, 0, 31, 9)
  const picture = Uint8Array.of(0x68, 5)
  const record = configurationRecord([sequence, picture, Uint8Array.of(0x65, 1)])
  expect([...record!]).toEqual([1, 100, 0, 31, 0xff, 0xe1, 0, 5, ...sequence, 1, 0, 2, ...picture])
  expect(configurationRecord([Uint8Array.of(0x65, 1)])).toBeNull()
})
