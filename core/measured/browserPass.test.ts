import { describe, expect, it } from 'vitest'
import { computerSchema } from '../show'
import {
  browserComputer,
  browserConfigOf,
  browserEfforts,
  browserFrameAt,
  type BrowserMachine,
  isWorthRunning,
  type MeasuredBrowserRun,
  plannedBrowserRuns,
} from './browserPass'
import { maxAtOnce, measuredSizes } from './passes'

const machine: BrowserMachine = {
  ...{ id: 'machine-1', browser: 'Browser 1', threads: 8 },
  ...{ at: '2026-12-12T20:00:00.000Z', sessions: 3 },
}
const [large, small] = measuredSizes
const measured = (
  kind: 'processor' | 'graphics',
  framesPerSecond: number,
  changes: Partial<MeasuredBrowserRun> = {},
): MeasuredBrowserRun => ({
  ...{ kind, codec: 'h264', effort: 'balanced', ...large, atOnce: 1, framesPerSecond },
  ...changes,
})

describe('what a browser’s encoders are run for', () => {
  it('is every way of working at both sizes, alone and several at once', () => {
    const runs = plannedBrowserRuns([
      { kind: 'processor', codec: 'h264' },
      { kind: 'graphics', codec: 'av1' },
    ])
    expect(runs).toHaveLength(2 * browserEfforts.length * measuredSizes.length * maxAtOnce)
    expect(plannedBrowserRuns([])).toEqual([])
  })

  it('is asked of each encoder in the words of WebCodecs, at 60 frames and a keyframe every 2 s', () => {
    // By hand: 1280 × 720 × 60 × 0.08 bits.
    expect(browserConfigOf(measured('graphics', 0))).toEqual({
      ...{ codec: 'avc1.64002A', width: 1280, height: 720, framerate: 60, bitrate: 4_423_680 },
      ...{ bitrateMode: 'constant', latencyMode: 'quality' },
      hardwareAcceleration: 'prefer-hardware',
    })
    expect(browserConfigOf(measured('processor', 0, { effort: 'fastest' }))).toMatchObject({
      ...{ latencyMode: 'realtime', hardwareAcceleration: 'prefer-software' },
    })
    expect([0, 1, 60, 120].map(browserFrameAt)).toEqual([
      { timestamp: 0, keyFrame: true },
      { timestamp: 16_667, keyFrame: false },
      { timestamp: 1_000_000, keyFrame: false },
      { timestamp: 2_000_000, keyFrame: true },
    ])
  })

  it('is no more at once than bring more', () => {
    const more = (atOnce: number) => ({ ...measured('processor', 0), atOnce })
    const so = [measured('processor', 100), measured('processor', 180, { atOnce: 2 })]
    expect(isWorthRunning(more(1), [])).toBe(true)
    expect(isWorthRunning(more(2), so)).toBe(true)
    expect(isWorthRunning(more(3), so)).toBe(true)
    expect(isWorthRunning(more(4), [...so, measured('processor', 182, { atOnce: 3 })])).toBe(false)
    // One that did not open brings nothing, and neither would two.
    expect(isWorthRunning(more(2), [])).toBe(false)
  })
})

describe('the computer of a browser', () => {
  it('costs what the fastest run of a kind says, by both sizes, and can be kept', () => {
    // By hand as in measured.test.ts: 2 ms a frame and 100 megapixels a second.
    const computer = browserComputer(
      [
        measured('processor', 50),
        measured('processor', 1 / 0.011216, { atOnce: 2 }),
        measured('processor', 1 / (0.002 + 0.0010224), { ...small, atOnce: 2 }),
        measured('graphics', 400),
      ],
      machine,
    )
    expect(computerSchema.parse(computer)).toEqual(computer)
    const [processor, graphics] = computer.devices
    expect(processor).toMatchObject({ name: 'Processor, 8 threads', sessions: null })
    expect(processor!.throughputs).toEqual([
      {
        ...{ codec: 'h264', effort: 'balanced' },
        ...{ megapixelsPerSecond: 100, millisecondsAFrame: 2 },
      },
    ])
    expect(graphics).toMatchObject({ kind: 'graphics', sessions: 3 })
    expect(computer.measured).toMatchObject({ installation: 'machine-1' })
  })

  it('has no device of which nothing is known', () => {
    expect(browserComputer([], machine).devices).toEqual([])
  })
})
