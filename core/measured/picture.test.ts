import { plannedDemoShow } from '@green-mantle/demo'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { crossingKbps, pictureScore, scoreFromSsim, shapeTerm } from '../media'
import { fitShow } from '../plan'
import { isTaken, type MeasuredPoint, type OwnPicture, pictureKinds } from '../show'
import { betweenErrors, bitsAgainst, fitPicture, modelErrors, modelledScore } from './fitPicture'
import { pictureEncodes, referenceRate, referenceSize } from './picturePasses'
import { runsOf } from '../../tests/tier'

const clip = { width: 1920, height: 1080, framesPerSecond: 60, seconds: 3 } as const
const effort = 'finest' as const

/** The similarity that stands for a score, by halving. */
function ssimFor(score: number): number {
  let [low, high] = [0, 1]
  for (let round = 0; round < 60; round += 1) {
    const middle = (low + high) / 2
    if (scoreFromSsim(middle) < score) low = middle
    else high = middle
  }
  return (low + high) / 2
}

/** The encodes of the clip, with scores as given. */
const measuredAs = (scoreOf: (point: MeasuredPoint) => number): MeasuredPoint[] =>
  pictureEncodes(clip).map(({ width, height, framesPerSecond, videoBitrateKbps }) => {
    const point = { width, height, framesPerSecond, videoBitrateKbps }
    const made = { ...point, ssim: 1, vif: 1, psnrDecibels: 40 }
    return { ...made, ssim: ssimFor(scoreOf(made)) }
  })

const pictureOf = (points: MeasuredPoint[]): OwnPicture => ({
  ...{ name: 'Bench', measuredAt: '2026-11-26T12:00:00.000Z', program: 'FFmpeg', processor: 'one' },
  ...{ spatialInformation: 40, temporalInformation: 10, clip, effort, points },
  ...fitPicture({ clip, effort, points }),
})

describe('the score of a similarity', () => {
  // Zinner et al. (2010), between grades of the mean opinion score; from memory. The words are ours.
  it.each([
    [0.99, 90],
    [0.95, 80],
    [0.88, 65],
    [0.5, 50],
    [1, 100],
    [0, 0],
  ])('%d is %d', (ssim, score) => expect(scoreFromSsim(ssim)).toBeCloseTo(score, 9))

  it('never falls as pictures get more alike', () => {
    const share = fc.double({ min: 0, max: 1, noNaN: true })
    fc.assert(
      fc.property(share, share, (a, b) => {
        expect(scoreFromSsim(Math.min(a, b))).toBeLessThanOrEqual(scoreFromSsim(Math.max(a, b)))
      }),
    )
  })
})

describe('what is encoded', () => {
  it('is a dozen or so encodes, none larger or faster than the clip, all of even sides', () => {
    const side = fc.integer({ min: 64, max: 1920 }).map((pixels) => 2 * Math.floor(pixels / 2))
    const rate = fc.constantFrom(...([24, 25, 30, 50, 60] as const))
    fc.assert(
      fc.property(side, side, rate, (width, height, framesPerSecond) => {
        const encodes = pictureEncodes({ width, height, framesPerSecond })
        expect(encodes.length).toBeLessThanOrEqual(16)
        expect(encodes.length).toBeGreaterThanOrEqual(8)
        for (const encode of encodes) {
          expect([encode.width % 2, encode.height % 2]).toEqual([0, 0])
          expect(encode.width).toBeLessThanOrEqual(width)
          expect(encode.framesPerSecond).toBeLessThanOrEqual(framesPerSecond)
        }
      }),
    )
  })

  it('looks at the smallest size at every frame rate that it looks at', () => {
    const seen = (framesPerSecond: 30 | 60): string[] =>
      pictureEncodes({ width: 1920, height: 1080, framesPerSecond }).map(
        ({ width, framesPerSecond: rate, videoBitrateKbps }) =>
          `${width} ${rate} ${videoBitrateKbps}`,
      )
    for (const rate of [30, 60])
      expect(seen(60).filter((each) => each.startsWith(`640 ${rate} `))).toHaveLength(2)
    expect(seen(30).filter((each) => each.startsWith('640 30 '))).toHaveLength(2)
    expect(new Set(seen(30)).size).toBe(seen(30).length)
  })

  it('is within what a desk shows, and of a usual frame rate', () => {
    expect(referenceSize({ width: 3840, height: 2160 })).toEqual({ width: 1920, height: 1080 })
    expect(referenceSize({ width: 2160, height: 3840 })).toEqual({ width: 1080, height: 1920 })
    expect(referenceSize({ width: 1281, height: 720 })).toEqual({ width: 1282, height: 720 })
    expect([29.97, 59.94, 23.976, 120].map(referenceRate)).toEqual([30, 60, 24, 60])
  })
})

describe('a fit', () => {
  it('finds again what the points were made from, whatever it was', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...pictureKinds),
        fc.double({ min: 4000, max: 60_000, noNaN: true }),
        (nearestKind, cleanBitrateKbps) => {
          const made = { nearestKind, cleanBitrateKbps }
          const points = measuredAs((point) =>
            modelledScore(point, { clip, effort, points: [] }, made),
          )
          const measured = { clip, effort, points }
          const fit = fitPicture(measured)
          expect(modelErrors(measured, fit).max).toBeLessThan(0.6)
          // Two kinds may say nearly the same of few bits; then either will do.
          if (fit.nearestKind === nearestKind)
            expect(fit.cleanBitrateKbps / cleanBitrateKbps).toBeCloseTo(1, 2)
        },
      ),
      { numRuns: runsOf(40) },
    )
  })

  it('is the least of a fine scan', () => {
    const points = measuredAs(({ videoBitrateKbps }) => 50 + 6 * Math.log(videoBitrateKbps / 500))
    const measured = { clip, effort, points }
    const squared = (
      nearestKind: (typeof pictureKinds)[number],
      cleanBitrateKbps: number,
    ): number =>
      points.reduce(
        (sum, point) =>
          sum +
          (modelledScore(point, measured, { nearestKind, cleanBitrateKbps }) -
            scoreFromSsim(point.ssim)) **
            2,
        0,
      )
    const fit = fitPicture(measured)
    const found = squared(fit.nearestKind, fit.cleanBitrateKbps)
    for (const kind of pictureKinds)
      for (let kbps = 200; kbps < 400_000; kbps *= 1.01)
        expect(found).toBeLessThanOrEqual(squared(kind, kbps) + 1e-3)
  })
})

describe('a measured picture', () => {
  const rising = pictureOf(
    measuredAs(({ width, videoBitrateKbps }) =>
      Math.min(99, 30 + (width / 1920) * 8 + 8 * Math.log(videoBitrateKbps / 200)),
    ),
  )
  const asSent = (point: Omit<MeasuredPoint, 'ssim' | 'vif' | 'psnrDecibels'>) => ({
    ...point,
    framesPerSecond: point.framesPerSecond as 60,
    ...({ codec: 'h264', effort } as const),
  })

  it('scores what was measured as it was measured, on the screen that shows the clip whole', () => {
    for (const point of rising.points) {
      const frames = shapeTerm(
        asSent({ ...point, width: clip.width, height: clip.height }),
        rising,
        'own size',
      )
      expect(pictureScore(asSent(point), rising, 'desk')).toBeCloseTo(
        scoreFromSsim(point.ssim) * frames,
        1,
      )
    }
  })

  it('is never worse with more bits, and never better than clean, on any screen', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 5, max: 100, noNaN: true }), { minLength: 14, maxLength: 14 }),
        fc.constantFrom('desk', 'phone', 'tv', 'own size' as const),
        fc.integer({ min: 100, max: 3840 }),
        fc.constantFrom(24, 30, 60),
        (scores, screen, width, framesPerSecond) => {
          let at = 0
          const picture = pictureOf(measuredAs(() => scores[(at += 1) % scores.length]!))
          const shape = { width, height: Math.round((width * 9) / 16), framesPerSecond }
          let before = 0
          for (let videoBitrateKbps = 50; videoBitrateKbps < 100_000; videoBitrateKbps *= 1.3) {
            const score = pictureScore(asSent({ ...shape, videoBitrateKbps }), picture, screen)
            expect(score).toBeGreaterThanOrEqual(before - 1e-9)
            expect(score).toBeLessThanOrEqual(100 + 1e-9)
            before = score
          }
        },
      ),
      { numRuns: runsOf(60) },
    )
  })

  it('is read from encodes of the same bits, too, and from one alone', () => {
    const [first] = rising.points as [MeasuredPoint]
    const sent = asSent(first)
    for (const points of [[first], [first, { ...first, ssim: first.ssim / 2 }]]) {
      const picture = { ...rising, points }
      for (const videoBitrateKbps of [50, first.videoBitrateKbps, 50_000])
        expect(pictureScore({ ...sent, videoBitrateKbps }, picture, 'phone')).toBeGreaterThan(0)
      expect(pictureScore(sent, picture, 'desk')).toBeCloseTo(
        pictureScore(sent, { ...rising, points: [first] }, 'desk'),
        9,
      )
    }
  })

  it('has its sizes cross where the points cross', () => {
    // 1280×720 gains 5 points a doubling, 1920×1080 gains 9 and is 12 behind at 1 Mb/s: they meet at 8 Mb/s.
    const picture = pictureOf(
      measuredAs(({ width, framesPerSecond, videoBitrateKbps }) => {
        const doublings = Math.log2(videoBitrateKbps / 1000)
        if (framesPerSecond === 60 && width === 1920) return 53 + 9 * doublings
        return 65 + 5 * doublings
      }),
    )
    const base = {
      ...plannedDemoShow.destinations[0]!.renditions[0]!,
      ...asSent(picture.points[0]!),
    }
    const small = { width: 1280, height: 720, framesPerSecond: 60 } as const
    const large = { width: 1920, height: 1080, framesPerSecond: 60 } as const
    const range = { fromKbps: 2000, toKbps: 12_000 }
    const at = crossingKbps(base, small, large, picture, 'desk', range)
    expect(Math.abs(at! - 8000)).toBeLessThan(0.15 * 8000)
  })

  it('says how many times the bits of a kind it needs, and how sure that is', () => {
    const twice = { clip, effort, points: [] }
    const made = { nearestKind: 'hands', cleanBitrateKbps: 22_000 } as const
    const picture = pictureOf(measuredAs((point) => modelledScore(point, twice, made)))
    expect(bitsAgainst(picture, 'hands')).toBeCloseTo(2, 1)
    expect(betweenErrors(rising)!.mean).toBeLessThan(1)
    expect(betweenErrors({ ...rising, points: rising.points.slice(0, 1) })).toBeNull()
  })

  it('is what a show is planned by', () => {
    // At 60 frames a second it looks broken whatever it gets, so that nobody should be sent that.
    const slow = pictureOf(
      measuredAs(({ framesPerSecond, videoBitrateKbps }) =>
        framesPerSecond === 60 ? 30 : Math.min(97, 40 + 7 * Math.log(videoBitrateKbps / 100)),
      ),
    )
    const ratesOf = (show: typeof plannedDemoShow): number[] => {
      const on = new Set(show.destinations.filter(isTaken).map(({ id }) => id))
      return (fitShow(show).parts ?? [])
        .filter(({ id }) => on.has(id))
        .map(({ renditions }) => renditions[0]!.framesPerSecond)
    }
    expect(ratesOf(plannedDemoShow)).toContain(60)
    expect(ratesOf({ ...plannedDemoShow, pictureKind: 'own', ownPicture: slow })).not.toContain(60)
  })
})
