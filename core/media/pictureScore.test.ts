import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { newPlanDetails, pictureKinds, type Rendition, viewerScreens } from '../show'
import { crossingKbps, crossingsOf, logarithmicBitrates, scoreCurves } from './bitrateCurve'
import { efficiencyOf } from './efficiency'
import {
  cleanBitrateKbps,
  pictureScore,
  scoreAtSizeOf,
  scoreOfLikeness,
  scoreWord,
  viewedPixels,
} from './pictureScore'

const rendition = (settings: Partial<Rendition> = {}): Rendition => ({
  id: 'r',
  width: 1920,
  height: 1080,
  framesPerSecond: 60,
  codec: 'h264',
  effort: 'finest',
  videoBitrateKbps: 6000,
  keyframeIntervalSeconds: 2,
  bFrames: 2,
  audioCodec: 'aac',
  audioBitrateKbps: 160,
  audioChannels: 2,
  audioSampleRateHz: 48_000,
  ...newPlanDetails(),
  ...settings,
})
const wide720 = { width: 1280, height: 720 }
const tall = { width: 1080, height: 1920, framesPerSecond: 30 } as const

describe('common practice, no published source', () => {
  const action = (settings: Partial<Rendition>) =>
    pictureScore(rendition(settings), 'action', 'desk')

  it.each([6000, 6500, 7000])(
    'at %i kb/s of fast action 720p60 looks better than 1080p60',
    (kbps) => {
      expect(action({ ...wide720, videoBitrateKbps: kbps })).toBeGreaterThan(
        action({ videoBitrateKbps: kbps }),
      )
    },
  )

  it('at 8000 kb/s of fast action 1080p60 looks better', () => {
    expect(action({ videoBitrateKbps: 8000 })).toBeGreaterThan(
      action({ ...wide720, videoBitrateKbps: 8000 }),
    )
  })

  it('finds that crossing between 7 and 8 Mb/s', () => {
    const smaller = { ...wide720, framesPerSecond: 60 } as const
    const larger = { width: 1920, height: 1080, framesPerSecond: 60 } as const
    const range = { fromKbps: 500, toKbps: 12_000 }
    const crossing = crossingKbps(rendition(), smaller, larger, 'action', 'desk', range)
    expect(crossing).toBeGreaterThan(7000)
    expect(crossing).toBeLessThan(8000)
    expect(crossingKbps(rendition(), larger, smaller, 'action', 'desk', range)).toBeNull()
    const [met, ...others] = crossingsOf(rendition(), [larger, smaller], 'action', 'desk', range)
    expect(others).toEqual([])
    expect(met).toMatchObject({ smaller, larger, videoBitrateKbps: crossing })
    for (const variant of [smaller, larger])
      expect(
        pictureScore({ ...rendition(), ...variant, videoBitrateKbps: crossing! }, 'action', 'desk'),
      ).toBeCloseTo(met!.score, 0)
  })

  it('1080p at 4500 kb/s is decent for talking', () => {
    const score = pictureScore(
      rendition({ framesPerSecond: 30, videoBitrateKbps: 4500 }),
      'talking',
      'desk',
    )
    expect(['clean', 'good']).toContain(scoreWord(score))
  })

  it('720p at 3500 to 4000 kb/s is a sound default for hands', () => {
    for (const videoBitrateKbps of [3500, 4000])
      expect(
        pictureScore(
          rendition({ ...wide720, framesPerSecond: 30, videoBitrateKbps }),
          'hands',
          'desk',
        ),
      ).toBeGreaterThan(80)
  })

  it('vertical 1080×1920 at 30 runs at 3000 to 4800 kb/s', () => {
    for (const videoBitrateKbps of [3000, 4800])
      expect(
        pictureScore(rendition({ ...tall, videoBitrateKbps }), 'talking', 'phone'),
      ).toBeGreaterThan(80)
  })
})

describe('the formula', () => {
  // Worked by hand from the form in Ou, Xue, Wang 2014 with the class values of "hands": every term
  // of a picture at its clean bitrate, full size and full rate is 1.
  it('gives 100 to a full picture at its clean bitrate', () => {
    expect(pictureScore(rendition({ videoBitrateKbps: 11_000 }), 'hands', 'desk')).toBeCloseTo(
      100,
      9,
    )
  })

  // need = 7000 · 0.5^0.45 · 1 = 5124.3; u = (2562.15/5124.3)^(1/1.2) = 0.5612;
  // ie(5.5, u) = (1 − e^−3.0867)/(1 − e^−5.5) = 0.9581; ie(5.5, 0.5^0.63 = 0.6462) = 0.9753.
  it('agrees with a worked example', () => {
    const half = rendition({ framesPerSecond: 30, videoBitrateKbps: 2562.15 })
    expect(cleanBitrateKbps('talking', half)).toBeCloseTo(5124.3, 0)
    expect(pictureScore(half, 'talking', 'desk')).toBeCloseTo(93.45, 1)
  })

  it('lets a better codec and more effort buy more', () => {
    const score = (settings: Partial<Rendition>) =>
      pictureScore(rendition(settings), 'hands', 'desk')
    expect(score({ codec: 'hevc' })).toBeGreaterThan(score({}))
    expect(score({ codec: 'av1' })).toBeGreaterThan(score({ codec: 'hevc' }))
    expect(score({ effort: 'fastest' })).toBeLessThan(score({ effort: 'brisk' }))
  })

  it('stays from 0 to 100 and never falls with more bits', () => {
    const kbps = fc.integer({ min: 50, max: 60_000 })
    fc.assert(
      fc.property(
        kbps,
        kbps,
        fc.constantFrom(...pictureKinds),
        fc.constantFrom(...viewerScreens),
        fc.constantFrom({ width: 1920, height: 1080 }, wide720, { width: 1080, height: 1920 }),
        (a, b, kind, screen, size) => {
          const at = (videoBitrateKbps: number) =>
            pictureScore(rendition({ ...size, videoBitrateKbps }), kind, screen)
          expect(at(a)).toBeGreaterThanOrEqual(0)
          expect(at(a)).toBeLessThanOrEqual(100 + 1e-9)
          expect(at(Math.max(a, b))).toBeGreaterThanOrEqual(at(Math.min(a, b)))
        },
      ),
    )
  })
})

describe('what a screen shows', () => {
  it('fits the picture; only a phone is turned', () => {
    expect(viewedPixels({ width: 1920, height: 1080 }, 'desk')).toBe(1920 * 1080)
    expect(viewedPixels({ width: 1920, height: 1080 }, 'phone')).toBe(1920 * 1080)
    expect(viewedPixels({ width: 1080, height: 1920 }, 'phone')).toBe(1920 * 1080)
    expect(viewedPixels({ width: 1080, height: 1920 }, 'desk')).toBe(607.5 * 1080)
    expect(viewedPixels({ width: 1280, height: 720 }, 'tv')).toBe(3840 * 2160)
  })
})

describe('words and curves', () => {
  it.each([
    [100, 'clean'],
    [89.5, 'clean'],
    [89.4, 'good'],
    [80, 'good'],
    [79, 'soft'],
    [64.4, 'rough'],
    [49, 'broken'],
    [0, 'broken'],
  ] as const)('%f is %s', (score, word) => {
    expect(scoreWord(score)).toBe(word)
  })

  it('spaces bitrates evenly on a logarithmic scale', () => {
    const bitrates = logarithmicBitrates(500, 8000, 5)
    expect(bitrates).toHaveLength(5)
    ;[500, 1000, 2000, 4000, 8000].forEach((kbps, index) =>
      expect(bitrates[index]).toBeCloseTo(kbps, 6),
    )
  })

  it('draws each variant through the send’s own score', () => {
    const [curve] = scoreCurves(
      rendition(),
      [{ width: 1920, height: 1080, framesPerSecond: 60 }],
      'hands',
      'desk',
      [6000],
    )
    expect(curve?.points[0]?.score).toBe(pictureScore(rendition(), 'hands', 'desk'))
  })
})

describe('efficiency', () => {
  const h264 = { codec: 'h264', effort: 'finest' } as const
  const ahead = (lookAheadFrames: number) => ({ ...h264, encoder: { lookAheadFrames } })

  // Measured by us on real encodes: with 20 frames of look-ahead calm pictures needed 23 % fewer bits.
  it('without look-ahead is 23 % less for calm pictures, and none less from 20 frames on', () => {
    expect(efficiencyOf(ahead(0), 'talking')).toBeCloseTo(0.77, 9)
    expect(efficiencyOf(ahead(20), 'talking')).toBe(efficiencyOf(h264, 'talking'))
    expect(efficiencyOf(ahead(10), 'talking')).toBeCloseTo(1 - 0.23 / 2, 9)
    expect(efficiencyOf(ahead(0), 'action')).toBe(1)
  })

  // Measured by us: H.264's fastest is 0.8 to 0.9 of its finest; HEVC's fastest may be worse than H.264's finest.
  it('of the fastest H.264 is at least 0.8 of its finest, and HEVC’s fastest below H.264’s finest', () => {
    expect(efficiencyOf({ codec: 'h264', effort: 'fastest' }, 'hands')).toBeGreaterThanOrEqual(0.8)
    expect(efficiencyOf({ codec: 'hevc', effort: 'fastest' }, 'hands')).toBeLessThan(1)
  })
})

describe('a picture held against its original', () => {
  const original = { width: 1920, height: 1080 }
  it('is planned as at its own size where it is as large, and worse where it is smaller', () => {
    const same = { ...rendition(), ...original }
    expect(scoreAtSizeOf(original, same, 'talking')).toBeCloseTo(
      pictureScore(same, 'talking', 'own size'),
      9,
    )
    const smaller = { ...same, width: 640, height: 360 }
    expect(scoreAtSizeOf(original, smaller, 'talking')).toBeLessThan(
      pictureScore(smaller, 'talking', 'own size'),
    )
  })

  it('is clean where nothing was lost at the full frame rate, and no better at half of it', () => {
    expect(scoreOfLikeness(1, 60, 'action')).toBeCloseTo(100, 9)
    expect(scoreOfLikeness(1, 30, 'action')).toBeLessThan(99)
    expect(scoreOfLikeness(0.95, 60, 'action')).toBeCloseTo(80, 9)
  })
})
