import fc from 'fast-check'
import {
  BufferTarget,
  EncodedAudioPacketSource,
  EncodedPacket,
  EncodedVideoPacketSource,
  Mp4OutputFormat,
  Output,
} from 'mediabunny'
import { describe, expect, it } from 'vitest'
import { runsOf } from '../../tests/tier'
import { type FragmentSample, fragmentReader } from './fragments'

const framesPerSecond = 25
/** A record of HEVC without parameter sets (ISO/IEC 14496-15, 8.3.3.1), and AAC-LC of two channels at 48 kHz (ISO/IEC 14496-3). */
const pictureRecord = Uint8Array.from([1, 1, 0x60, ...new Array<number>(19).fill(0), 0])
const soundConfiguration = Uint8Array.of(0x11, 0x90)
/** In the order of decoding: a keyframe, then one frame that two others before it in time refer to. */
const shownAt = [0, 3, 1, 2, 6, 4, 5]
const bytesOf = (index: number): Uint8Array =>
  Uint8Array.from({ length: 20 + index }, (_, at) => (index * 31 + at) & 0xff)

/** The same picture and sound as a library of others puts them into fragments. */
async function byLibrary(fragmentSeconds: number): Promise<Uint8Array> {
  const target = new BufferTarget()
  const output = new Output({
    format: new Mp4OutputFormat({
      fastStart: 'fragmented',
      minimumFragmentDuration: fragmentSeconds,
    }),
    target,
  })
  const picture = new EncodedVideoPacketSource('hevc')
  const sound = new EncodedAudioPacketSource('aac')
  output.addVideoTrack(picture)
  output.addAudioTrack(sound)
  await output.start()
  const pictureMeta = {
    decoderConfig: {
      ...{ codec: 'hvc1.1.6.L93.B0', codedWidth: 320, codedHeight: 180 },
      description: pictureRecord,
    },
  }
  const soundMeta = {
    decoderConfig: {
      ...{ codec: 'mp4a.40.2', numberOfChannels: 2, sampleRate: 48_000 },
      description: soundConfiguration,
    },
  }
  for (const [index, at] of shownAt.entries()) {
    const second = 1 / framesPerSecond
    const type = index === 0 ? 'key' : 'delta'
    const packet = new EncodedPacket(bytesOf(index), type, at * second, second)
    await picture.add(packet, pictureMeta)
    await sound.add(new EncodedPacket(bytesOf(100 + index), 'key', index * 0.02, 0.02), soundMeta)
  }
  await output.finalize()
  return new Uint8Array(target.buffer as ArrayBuffer)
}

const readWhole = (pieces: readonly Uint8Array[]) => {
  const read = fragmentReader()
  const all = pieces.map((piece) => read(piece))
  return { tracks: all.at(-1)?.tracks ?? [], samples: all.flatMap(({ samples }) => samples) }
}
const picturesOf = (samples: readonly FragmentSample[]) =>
  samples.filter(({ track }) => track.codec === 'hevc')

describe('a stream in fragments', () => {
  it.each([0, 10])(
    'is read as a library of others wrote it, in fragments of %i s',
    async (seconds) => {
      const { tracks, samples } = readWhole([await byLibrary(seconds)])
      expect(tracks).toEqual([
        { codec: 'hevc', configuration: pictureRecord },
        { codec: 'aac', configuration: soundConfiguration },
      ])
      const pictures = picturesOf(samples)
      expect(pictures.map(({ bytes }) => bytes)).toEqual(shownAt.map((_, index) => bytesOf(index)))
      expect(pictures.map(({ isKey }) => isKey)).toEqual(shownAt.map((at) => at === 0))
      const [first] = pictures
      for (const [index, { decodeSeconds, presentSeconds }] of pictures.entries()) {
        expect(presentSeconds - first!.presentSeconds).toBeCloseTo(
          shownAt[index]! / framesPerSecond,
          3,
        )
        if (index > 0) expect(decodeSeconds).toBeGreaterThan(pictures[index - 1]!.decodeSeconds)
      }
      const sounds = samples.filter(({ track }) => track.codec === 'aac')
      expect(sounds.map(({ bytes }) => bytes)).toEqual(
        shownAt.map((_, index) => bytesOf(100 + index)),
      )
    },
  )

  it('is the same however it is cut into pieces', async () => {
    const whole = await byLibrary(0)
    const expected = readWhole([whole])
    fc.assert(
      fc.property(fc.array(fc.nat(whole.length), { maxLength: 12 }), (cuts) => {
        const places = [0, ...cuts.toSorted((a, b) => a - b), whole.length]
        const pieces = places.slice(1).map((end, index) => whole.subarray(places[index], end))
        expect(readWhole(pieces)).toEqual(expected)
      }),
      { numRuns: runsOf(100) },
    )
  })

  it('ends in an error or gives less where it is damaged, and never more than came', async () => {
    const whole = await byLibrary(0)
    fc.assert(
      fc.property(fc.nat(whole.length - 1), fc.nat(255), (at, value) => {
        const damaged = whole.slice()
        damaged[at] = value
        try {
          const { samples } = readWhole([damaged])
          const bytes = samples.reduce((sum, each) => sum + each.bytes.length, 0)
          expect(bytes).toBeLessThanOrEqual(whole.length)
        } catch (error) {
          expect(error).toBeInstanceOf(Error)
        }
      }),
      { numRuns: runsOf(400) },
    )
  })

  it('takes no memory for a box without end', () => {
    const read = fragmentReader()
    expect(() => read(Uint8Array.of(0x7f, 0xff, 0xff, 0xff, 0x6d, 0x64, 0x61, 0x74))).toThrow(
      /none of a stream in fragments/,
    )
  })
})
