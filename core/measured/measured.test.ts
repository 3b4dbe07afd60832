import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { encoderLoad } from '../media'
import { encodingCost, type EncodingRun, throughputsFrom } from './costs'
import { measuredSizes, plannedRuns } from './passes'
import { progressReader, rateBetween } from './progressLog'
import { summedLoad, togetherFactor } from './together'

const run = (
  size: { width: number; height: number },
  framesPerSecond: number,
  changes: Partial<EncodingRun> = {},
): EncodingRun => ({
  codec: 'h264',
  effort: 'balanced',
  ...size,
  atOnce: 1,
  framesPerSecond,
  ...changes,
})
const [large, small] = measuredSizes

describe('what a frame costs', () => {
  // By hand: 2 ms a frame and 100 megapixels a second. 0.9216 megapixels take 2 + 9.216 ms, so 89.16 a second.
  it('is told apart from two sizes', () => {
    const runs = [run(large, 1 / 0.011216), run(small, 1 / (0.002 + 0.0010224))]
    expect(encodingCost(runs, [])).toEqual({ megapixelsPerSecond: 100, millisecondsAFrame: 2 })
  })

  it('comes back whatever it was, decoding taken off', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.05, max: 20, noNaN: true }),
        fc.double({ min: 5, max: 5000, noNaN: true }),
        fc.double({ min: 0.01, max: 1, noNaN: true }),
        (milliseconds, throughput, decodingShare) => {
          const seconds = ({ width, height }: typeof large | typeof small): number =>
            milliseconds / 1000 + (width * height) / 1e6 / throughput
          const decoding = measuredSizes.map((size) => ({
            ...size,
            framesPerSecond: 1 / (seconds(size) * decodingShare),
          }))
          const runs = measuredSizes.map((size) =>
            run(size, 1 / (seconds(size) * (1 + decodingShare))),
          )
          const cost = encodingCost(runs, decoding)!
          const load = encoderLoad({ width: 640, height: 360, framesPerSecond: 30 }, cost)
          const wanted = 30 * (milliseconds / 1000 + (640 * 360) / 1e6 / throughput)
          expect(load / wanted).toBeGreaterThan(0.97)
          expect(load / wanted).toBeLessThan(1.03)
        },
      ),
    )
  })

  it('goes by pixels alone where one size was measured, or the larger was no dearer', () => {
    expect(encodingCost([run(large, 100)], [])).toEqual({ megapixelsPerSecond: 92.2 })
    expect(encodingCost([run(large, 100), run(small, 90)], [])).toEqual({
      megapixelsPerSecond: 92.2,
    })
    expect(encodingCost([], [])).toBeNull()
  })

  it('is that of as many at once as bring most', () => {
    const runs = [run(large, 60), run(large, 100, { atOnce: 2 }), run(large, 98, { atOnce: 3 })]
    expect(encodingCost(runs, [])?.megapixelsPerSecond).toBeCloseTo(92.2, 6)
    expect(throughputsFrom(runs, [])).toEqual([
      { codec: 'h264', effort: 'balanced', megapixelsPerSecond: 92.2 },
    ])
  })
})

describe('several at once', () => {
  const throughputs = throughputsFrom([run(large, 100), run(large, 200, { effort: 'fastest' })], [])
  const mixed = (effort: 'balanced' | 'fastest', framesPerSecond: number) => ({
    codec: 'h264' as const,
    effort,
    ...large,
    framesPerSecond,
  })

  const mixOf = (balanced: number, fastest: number, deviceShare = 1) => ({
    runs: [mixed('balanced', balanced), mixed('fastest', fastest)],
    deviceShare,
  })

  it('add up to all of the device where nothing is lost between them', () => {
    expect(summedLoad(mixOf(50, 100).runs, throughputs)).toBeCloseTo(1, 2)
    expect(togetherFactor([mixOf(50, 100)], throughputs)).toBeCloseTo(1, 2)
    // Or to as much of it as they took.
    expect(togetherFactor([mixOf(25, 50, 0.5)], throughputs)).toBeCloseTo(1, 2)
  })

  it('take a quarter more where they reach four fifths of it, and never less than their sum', () => {
    expect(togetherFactor([mixOf(40, 80)], throughputs)).toBe(1.25)
    expect(togetherFactor([mixOf(80, 100)], throughputs)).toBe(1)
    expect(togetherFactor([], throughputs)).toBeUndefined()
    const unknown = { runs: [{ ...mixed('balanced', 1), codec: 'av1' as const }], deviceShare: 1 }
    expect(togetherFactor([unknown], throughputs)).toBeUndefined()
  })

  it('are not told by one mix that went otherwise than the rest', () => {
    const mixes = [mixOf(45, 90), mixOf(45, 90), mixOf(100, 200)]
    expect(togetherFactor(mixes, throughputs)).toBe(1.11)
  })
})

describe('a pass', () => {
  it('runs both sizes of every effort of what is there, and the quick one fewer at once', () => {
    const quick = plannedRuns('quick', ['h264'])
    // What is mostly sent is looked at twice, the second time when all has been once.
    const alone = quick.filter(({ atOnce }) => atOnce === 1)
    expect(alone).toHaveLength(20)
    expect(alone.slice(10)).toEqual(alone.slice(0, 10))
    expect(plannedRuns('quick', ['hevc']).filter(({ atOnce }) => atOnce === 1)).toHaveLength(10)
    expect(quick.filter(({ atOnce }) => atOnce > 1)).toHaveLength(3)
    expect(plannedRuns('thorough', ['h264']).length).toBeGreaterThan(quick.length)
    expect(plannedRuns('thorough', [])).toEqual([])
  })
})

describe('an encoder’s progress', () => {
  const log =
    'frame=12\nfps=0.0\nout_time_us=400000\ndup_frames=0\ndrop_frames=1\nspeed=N/A\nprogress=continue\nframe=40\nout_time_us=1333333\ndup_frames=2\ndrop_frames=3\nspeed=1.1x\nprogress=end\n'
  it('is read however it is cut', () => {
    const whole = progressReader()(log)
    expect(whole).toEqual([
      { frames: 12, outSeconds: 0.4, droppedFrames: 1, doubledFrames: 0, speed: null },
      { frames: 40, outSeconds: 1.333333, droppedFrames: 3, doubledFrames: 2, speed: 1.1 },
    ])
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: log.length })), (cuts) => {
        const read = progressReader()
        const at = [0, ...cuts.sort((a, b) => a - b), log.length]
        const pieces = at.slice(1).map((end, index) => log.slice(at[index], end))
        expect(pieces.flatMap(read)).toEqual(whole)
      }),
    )
  })

  it('has a rate from its second report on', () => {
    expect(rateBetween([{ atSeconds: 1, frames: 10 }])).toBeNull()
    expect(
      rateBetween([
        { atSeconds: 1, frames: 10 },
        { atSeconds: 3, frames: 90 },
      ]),
    ).toBe(40)
  })
})
