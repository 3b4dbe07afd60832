import { describe, expect, it } from 'vitest'
import {
  enhancedFrame,
  enhancedFrameHeadBytes,
  enhancedHead,
  fourCharacterNumber,
} from './enhancedVideo'

/*
 * Bytes by hand from "Enhanced RTMP (v1)", Veovera Software Organization, 2023: a byte of 1 (newer),
 * three bits of the kind of frame (1 key, 2 others) and four of the kind of packet (0 sequence start,
 * 1 coded frames, 3 coded frames without an offset), four characters, then for HEVC's coded frames an
 * offset of 24 bits.
 */
const hvc1 = [0x68, 0x76, 0x63, 0x31]
const av01 = [0x61, 0x76, 0x30, 0x31]
const bytes = Uint8Array.of(9, 8, 7)

describe('a picture of a newer codec over RTMP', () => {
  it('begins with what a decoder needs', () => {
    expect([...enhancedHead('hevc', bytes)]).toEqual([0x90, ...hvc1, 9, 8, 7])
    expect([...enhancedHead('av1', bytes)]).toEqual([0x90, ...av01, 9, 8, 7])
  })

  it('says of HEVC how much later a frame is shown, where it is', () => {
    const key = { isKey: true, offsetMilliseconds: 66.6, bytes }
    expect([...enhancedFrame('hevc', key)]).toEqual([0x91, ...hvc1, 0, 0, 67, 9, 8, 7])
    const early = { isKey: false, offsetMilliseconds: -1, bytes }
    expect([...enhancedFrame('hevc', early)].slice(0, 8)).toEqual([0xa1, ...hvc1, 255, 255, 255])
    const atOnce = { isKey: false, offsetMilliseconds: 0, bytes }
    expect([...enhancedFrame('hevc', atOnce)]).toEqual([0xa3, ...hvc1, 9, 8, 7])
    expect([...enhancedFrame('av1', atOnce)]).toEqual([0xa1, ...av01, 9, 8, 7])
  })

  it('is told from what comes before it, and from one of FLV itself', () => {
    const head = (codec: 'hevc' | 'av1', offsetMilliseconds: number): number | null =>
      enhancedFrameHeadBytes(enhancedFrame(codec, { isKey: true, offsetMilliseconds, bytes }))
    expect([head('hevc', 40), head('hevc', 0), head('av1', 0)]).toEqual([8, 5, 5])
    expect(enhancedFrameHeadBytes(Uint8Array.of(0x17, 1, 0, 0, 0, 9))).toBeNull()
  })

  it('is named in metadata by its characters as a number', () => {
    expect(fourCharacterNumber('hevc')).toBe(0x68766331)
    expect(fourCharacterNumber('av1')).toBe(0x61763031)
  })
})
