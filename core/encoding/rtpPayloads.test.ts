import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { H264RtpPayload } from 'werift'
import { avcConfigurationOf, rtpPayloadsOf, unitsOfFrame } from './rtpPayloads'
import { runsOf } from '../../tests/tier'

/** As ISO/IEC 14496-15, 5.3.3.1 has it: version, profile, constraints, level, then the sets after their lengths. */
const record = (lengthBytes: number, sequence: number[][], picture: number[][]): Uint8Array => {
  const sets = (each: number[][]): number[] => each.flatMap((set) => [0, set.length, ...set])
  return Uint8Array.from([
    ...[1, 66, 0, 30, 0xfc | (lengthBytes - 1), 0xe0 | sequence.length, ...sets(sequence)],
    ...[picture.length, ...sets(picture)],
  ])
}

describe('a decoder configuration', () => {
  it('gives its parameter sets and how long a length is', () => {
    expect(avcConfigurationOf(record(4, [[0x67, 1, 2]], [[0x68, 3]]))).toEqual({
      lengthBytes: 4,
      parameterSets: [Uint8Array.of(0x67, 1, 2), Uint8Array.of(0x68, 3)],
    })
  })

  it('is none where it is cut off or of an impossible length, and never throws', () => {
    const whole = record(2, [[0x67, 1, 2]], [[0x68, 3]])
    for (let bytes = 0; bytes < whole.length - 1; bytes += 1) {
      const cut = avcConfigurationOf(whole.subarray(0, bytes))
      expect(cut === null || cut.parameterSets.length < 2).toBe(true)
    }
    expect(avcConfigurationOf(record(3, [[0x67]], [[0x68]]))).toBeNull()
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 60 }), (bytes) => {
        expect(() => avcConfigurationOf(bytes)).not.toThrow()
      }),
    )
  })
})

/** Units of a keyframe or frame, of any size. */
const units = fc.array(
  fc
    .tuple(
      fc.constantFrom(0x65, 0x41, 0x67, 0x06),
      fc.uint8Array({ minLength: 1, maxLength: 5000 }),
    )
    .map(([head, rest]) => Uint8Array.from([head, ...rest])),
  { minLength: 1, maxLength: 4 },
)

describe('a frame', () => {
  it('is taken apart into its units, and no further than it is', () => {
    fc.assert(
      fc.property(units, fc.constantFrom(2, 4), fc.nat(20), (each, lengthBytes, cut) => {
        const frame = Uint8Array.from(
          each.flatMap((unit) => [
            ...(lengthBytes === 4 ? [0, 0] : []),
            ...[unit.length >> 8, unit.length & 255, ...unit],
          ]),
        )
        expect(unitsOfFrame(frame, lengthBytes)).toEqual(each)
        const rest = unitsOfFrame(frame.subarray(0, frame.length - cut), lengthBytes)
        expect(rest).toEqual(each.slice(0, rest.length))
      }),
    )
  })

  it('comes out of its packets as it went in, read by a library that takes them apart', () => {
    fc.assert(
      fc.property(units, fc.integer({ min: 10, max: 1400 }), (each, maxBytes) => {
        const payloads = rtpPayloadsOf(each, maxBytes)
        expect(Math.max(...payloads.map(({ length }) => length))).toBeLessThanOrEqual(maxBytes)
        let fragment: Buffer | undefined
        const read = payloads.flatMap((payload) => {
          const one = H264RtpPayload.deSerialize(Buffer.from(payload), fragment)
          fragment = one.fragment
          // With the mark of a byte stream before each unit (ITU-T H.264, annex B).
          return one.payload ? [one.payload.toString('hex').replace(/^00000001/, '')] : []
        })
        expect(read).toEqual(each.map((unit) => Buffer.from(unit).toString('hex')))
      }),
      { numRuns: runsOf(60) },
    )
  })
})
