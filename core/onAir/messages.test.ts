import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  maxPictureBytes,
  maxSoundBytes,
  onAirBytes,
  onAirMessage,
  type OnAirMessage,
} from './messages'
import { maxLanes } from './lanes'

const bytes = fc.uint8Array({ minLength: 1, maxLength: 64 })
const canvas = fc.constantFrom('landscape' as const, 'vertical' as const)
const lane = fc.nat(maxLanes - 1)
const message: fc.Arbitrary<OnAirMessage> = fc.oneof(
  fc.record({
    ...{ kind: fc.constant('picture' as const), canvas, lane, isKey: fc.boolean(), bytes },
    atMicroseconds: fc.double({ min: 0, max: 1e12, noNaN: true, noDefaultInfinity: true }),
  }),
  fc.record({
    kind: fc.constant('sound' as const),
    mix: fc.constantFrom('live' as const, 'archive' as const),
    firstSample: fc.nat(1e9),
    bytes: fc
      .uint8Array({ minLength: 1, maxLength: 16 })
      .map((some) => Uint8Array.from([...some, ...some, ...some, ...some])),
  }),
  fc.record({ kind: fc.constant('standby' as const), canvas, lane, index: fc.nat(200), bytes }),
)

describe('what the on-air window sends', () => {
  it('is read as it was written', () => {
    fc.assert(
      fc.property(message, (each) => {
        expect(onAirMessage(onAirBytes(each))).toEqual(each)
      }),
    )
  })

  it('is null where it is out of form, whatever comes', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 40 }), (whole) => {
        const read = onAirMessage(whole)
        if (read) expect(onAirBytes(read)).toEqual(whole)
      }),
    )
    const picture = (part: object) =>
      onAirBytes({
        ...{ kind: 'picture', canvas: 'landscape', lane: 0, isKey: true, atMicroseconds: 0 },
        bytes: Uint8Array.of(1),
        ...part,
      } as OnAirMessage)
    expect(onAirMessage(picture({}))).not.toBeNull()
    for (const part of [
      { bytes: new Uint8Array(0) },
      { bytes: new Uint8Array(maxPictureBytes + 1) },
      { lane: maxLanes },
      { atMicroseconds: -1 },
      { atMicroseconds: Number.NaN },
      { atMicroseconds: Infinity },
    ])
      expect(onAirMessage(picture(part))).toBeNull()
    const sound = (part: object) =>
      onAirBytes({
        ...{ kind: 'sound', mix: 'live', firstSample: 0, bytes: new Uint8Array(4) },
        ...part,
      } as OnAirMessage)
    expect(onAirMessage(sound({}))).not.toBeNull()
    for (const part of [
      { bytes: new Uint8Array(3) },
      { bytes: new Uint8Array(maxSoundBytes + 4) },
      { firstSample: 0.5 },
    ])
      expect(onAirMessage(sound(part))).toBeNull()
  })
})
