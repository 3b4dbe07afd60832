import { demoShow } from '@green-mantle/demo'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { wireRateKbps } from '../network'
import { lineOf, type Destination, type Rendition } from '../show'
import { budgetOf, sendsOf } from './budget'
import type { Breach } from './breach'
import { breachesOf } from './rules'
import { savingsOf } from './saving'
import { acceptsSize, nearestAcceptedSize, sameShape, sizesToOffer, sizeWithin } from './sizes'
import { shareOfStrata, strataOf } from './strata'
import { destination, show } from './testShows'
import { trafficToFreeKbps, usableUploadOf } from './usable'
import { verdictOf } from './verdict'

const { canvasPair } = demoShow
const rulesBroken = (breaches: Breach[]): string[] => breaches.map(({ rule }) => rule)

describe('rules', () => {
  it('finds nothing wrong with the demo as it is', () => {
    for (const each of demoShow.destinations) expect(breachesOf(each, canvasPair)).toEqual([])
  })

  const vertical = { width: 720, height: 1280 }
  it.each<[string, Destination, Partial<Rendition> | null]>([
    ['size', destination({ width: 2560, height: 1440 }), { width: 1920, height: 1080 }],
    [
      'size',
      destination({}, { sizes: { type: 'one of', sizes: [{ width: 1920, height: 1080 }] } }),
      { width: 1920, height: 1080 },
    ],
    [
      'shape',
      destination({ ...vertical }, { sizes: { type: 'up to', width: 7680, height: 7680 } }),
      { width: 720, height: 404 },
    ],
    [
      'frame rate',
      destination({ framesPerSecond: 60 }, { framesPerSecond: { type: 'one of', choices: [30] } }),
      { framesPerSecond: 30 },
    ],
    [
      'frame rate',
      destination({ framesPerSecond: 60 }, { framesPerSecond: { type: 'up to', most: 50 } }),
      { framesPerSecond: 50 },
    ],
    ['codec', destination({ codec: 'av1' }, { codecs: ['h264', 'hevc'] }), { codec: 'h264' }],
    [
      'level',
      destination(
        { width: 1920, height: 1080, framesPerSecond: 60 },
        { highestLevel: { h264: '4', hevc: null, av1: null } },
      ),
      { width: 1920, height: 1080, framesPerSecond: 30 },
    ],
    ['video bitrate', destination({ videoBitrateKbps: 9000 }), { videoBitrateKbps: 6000 }],
    [
      'video bitrate',
      destination({ videoBitrateKbps: 900 }, { leastVideoBitrateKbps: 2250 }),
      { videoBitrateKbps: 2250 },
    ],
    [
      'keyframe interval',
      destination({ keyframeIntervalSeconds: 10 }),
      { keyframeIntervalSeconds: 4 },
    ],
    ['B-frames', destination({ bFrames: 3 }, { mostBFrames: 0 }), { bFrames: 0 }],
    ['audio bitrate', destination({ audioBitrateKbps: 512 }), { audioBitrateKbps: 320 }],
    [
      'audio sample rate',
      destination({}, { audioSampleRatesHz: [44_100] }),
      { audioSampleRateHz: 44_100 },
    ],
  ])('names a breach of %s in words, with the value that keeps it', (rule, broken, changes) => {
    const breaches = breachesOf(broken, canvasPair)
    expect(rulesBroken(breaches)).toEqual([rule])
    expect(breaches[0]?.words).toContain('Longmeadow')
    expect(breaches[0]?.remedy?.changes).toEqual(changes)
    const mended = broken.renditions.map((rendition) => ({ ...rendition, ...changes }))
    expect(breachesOf({ ...broken, renditions: mended }, canvasPair)).toEqual([])
  })

  it('says the numbers: what was given and what is taken', () => {
    const [breach] = breachesOf(destination({ videoBitrateKbps: 9000 }), canvasPair)
    expect(breach?.words).toBe('Longmeadow takes at most 6,000 kb/s of video, not 9,000.')
    expect(breach?.remedy?.words).toBe('Set 6,000 kb/s')
  })

  it('finds a rendition faster than the canvases', () => {
    const slow = { ...canvasPair, framesPerSecond: 30 as const }
    const [breach] = breachesOf(destination({ framesPerSecond: 60 }), slow)
    expect(breach?.remedy?.changes).toEqual({ framesPerSecond: 30 })
  })

  it('finds a ladder with too many steps', () => {
    const ladder = destination()
    const step = ladder.renditions[0]!
    const renditions = [step, { ...step, id: 'second' }]
    expect(rulesBroken(breachesOf({ ...ladder, renditions }, canvasPair))).toEqual([
      'number of renditions',
    ])
    const allowed = { ...ladder, renditions, rules: { ...ladder.rules, mostRenditions: 3 } }
    expect(breachesOf(allowed, canvasPair)).toEqual([])
  })

  it('every remedy mends its own rule', () => {
    const settings = fc.record({
      width: fc.constantFrom(1920, 1280, 2560, 720, 854),
      height: fc.constantFrom(1080, 720, 1440, 480),
      framesPerSecond: fc.constantFrom(24 as const, 30 as const, 60 as const),
      codec: fc.constantFrom('h264' as const, 'hevc' as const, 'av1' as const),
      videoBitrateKbps: fc.integer({ min: 50, max: 60_000 }),
      audioBitrateKbps: fc.integer({ min: 16, max: 1000 }),
      bFrames: fc.integer({ min: 0, max: 6 }),
    })
    fc.assert(
      fc.property(settings, (rendition) => {
        const broken = destination(rendition, {
          highestLevel: { h264: '4.2', hevc: null, av1: null },
        })
        for (const { rule, remedy } of breachesOf(broken, canvasPair)) {
          if (!remedy) continue
          const renditions = broken.renditions.map((each) => ({ ...each, ...remedy.changes }))
          expect(rulesBroken(breachesOf({ ...broken, renditions }, canvasPair))).not.toContain(rule)
        }
      }),
    )
  })
})

describe('sizes', () => {
  it('keeps the canvas’s shape within bounds, with even sides', () => {
    expect(sizeWithin({ width: 1920, height: 1080 }, { width: 1280, height: 1280 })).toEqual({
      width: 1280,
      height: 720,
    })
    expect(sizeWithin({ width: 1920, height: 1080 }, { width: 4000, height: 4000 })).toEqual({
      width: 1920,
      height: 1080,
    })
    expect(sameShape({ width: 426, height: 240 }, { width: 1920, height: 1080 })).toBe(true)
    expect(sameShape({ width: 1080, height: 1920 }, { width: 1920, height: 1080 })).toBe(false)
  })

  it('offers only what the rules accept', () => {
    for (const { rules, canvas } of demoShow.destinations) {
      const offered = sizesToOffer(rules, canvasPair[canvas])
      expect(offered.length).toBeGreaterThan(0)
      for (const size of offered) expect(acceptsSize(rules, size)).toBe(true)
      expect(
        acceptsSize(
          rules,
          nearestAcceptedSize(rules, { width: 7680, height: 7680 }, canvasPair[canvas]),
        ),
      ).toBe(true)
    }
  })
})

describe('budget', () => {
  it('sums every rendition of every destination that is on, a relay only while it feeds', () => {
    const all = {
      ...demoShow,
      destinations: demoShow.destinations.map((each) => ({ ...each, on: true })),
    }
    const sends = sendsOf(all)
    expect(sends.map(({ name }) => name)).toEqual([
      ...['Longmeadow', 'Flickerbrook', 'Commonhall', 'Tallstory wide', 'Tallstory tall'],
      ...['Kilnside', 'Rookery', 'Rookery 2', 'Rookery 3'],
    ])
    const { totalKbps, spareKbps, upload } = budgetOf(all)
    expect(totalKbps).toBeCloseTo(
      sends.reduce((sum, send) => sum + send.wireRateKbps, 0),
      6,
    )
    expect(spareKbps).toBeCloseTo(upload.usableKbps - totalKbps, 6)
  })

  // Common practice, no published source: two canvases at 6000 kb/s each are 12,000 kb/s, and want
  // at least 15 Mb/s up; landscape 6400 with vertical 3000 needs over 9 Mb/s up.
  it('counts both canvases of one platform', () => {
    const pair = (wide: number, tall: number, uploadKbps: number) =>
      budgetOf({
        ...show(uploadKbps, [
          destination({ videoBitrateKbps: wide - 160 }),
          destination({ videoBitrateKbps: tall - 160 }, {}, { canvas: 'vertical' }),
        ]),
      })
    expect(pair(6000, 6000, 12_000).spareKbps).toBeLessThan(0)
    expect(pair(6000, 6000, 15_000).spareKbps).toBeGreaterThan(0)
    expect(pair(6400, 3000, 9000).spareKbps).toBeLessThan(0)
    expect(pair(6400, 3000, 9600).spareKbps).toBeGreaterThan(0)
  })
})

describe('where to save', () => {
  const two = [
    destination(
      { videoBitrateKbps: 6000, width: 1280, height: 720 },
      {},
      { id: 'rich', name: 'Rich' },
    ),
    destination(
      { videoBitrateKbps: 1500, width: 1280, height: 720 },
      {},
      { id: 'poor', name: 'Poor' },
    ),
  ]

  it('is empty where the show fits', () => {
    expect(savingsOf(show(20_000, two))).toEqual([])
  })

  it('saves first on the send that loses the fewest points, and the saving fits', () => {
    const tight = show(6500, two)
    const [best] = savingsOf(tight)
    expect(best?.name).toBe('Rich')
    const lowered = two.map((each) =>
      each.id === best?.destinationId
        ? {
            ...each,
            renditions: [{ ...each.renditions[0]!, videoBitrateKbps: best.toVideoBitrateKbps! }],
          }
        : each,
    )
    expect(budgetOf({ ...tight, destinations: lowered }).spareKbps).toBeGreaterThanOrEqual(0)
    const oneStepMore = {
      ...lowered[0]!.renditions[0]!,
      videoBitrateKbps: best!.toVideoBitrateKbps! + 50,
    }
    const wireMore =
      wireRateKbps(oneStepMore, 'rtmps') + wireRateKbps(two[1]!.renditions[0]!, 'rtmps')
    expect(wireMore).toBeGreaterThan(6500)
  })

  it('says when a send has to be switched off, and when none is enough', () => {
    const floor = (each: Destination) => ({
      ...each,
      rules: { ...each.rules, leastVideoBitrateKbps: each.renditions[0]!.videoBitrateKbps },
    })
    const stiff = two.map(floor)
    expect(
      savingsOf(show(6500, stiff)).map(({ name, toVideoBitrateKbps }) => [
        name,
        toVideoBitrateKbps,
      ]),
    ).toEqual([
      ['Poor', null],
      ['Rich', null],
    ])
    expect(savingsOf(show(100, stiff))).toEqual([])
    expect(verdictOf(show(100, stiff)).advice).toMatch(/No single send/)
  })

  it('each saving fits by itself, whatever the line', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1500, max: 9000 }), (usableKbps) => {
        const tight = show(usableKbps, two)
        for (const saving of savingsOf(tight)) {
          const destinations = two.map((each) =>
            each.id !== saving.destinationId
              ? each
              : saving.toVideoBitrateKbps === null
                ? { ...each, on: false }
                : {
                    ...each,
                    renditions: [
                      { ...each.renditions[0]!, videoBitrateKbps: saving.toVideoBitrateKbps },
                    ],
                  },
          )
          expect(budgetOf({ ...tight, destinations }).spareKbps).toBeGreaterThanOrEqual(0)
        }
      }),
    )
  })
})

describe('verdict', () => {
  it('is a sentence for each case', () => {
    const one = destination()
    expect(verdictOf(show(9000, [])).sentence).toBe('Nothing is sent yet')
    expect(
      verdictOf({ ...show(9000, [one]), lines: [{ ...lineOf(demoShow), samples: [] }] }).sentence,
    ).toBe('The line is not measured yet')
    expect(verdictOf(show(9000, [one]))).toMatchObject({
      state: 'fits',
      sentence: 'One send fits the line',
    })
    const broken = destination({ audioBitrateKbps: 400 })
    expect(verdictOf(show(9000, [broken, one]))).toMatchObject({
      state: 'attention',
      sentence: 'Two sends fit the line, but a rule is not kept',
    })
    const over = verdictOf(show(3000, [one]))
    expect(over).toMatchObject({
      state: 'fails',
      sentence: 'One send is 0.7 Mb/s too much for the line',
    })
    expect(over.advice).toMatch(/^Save on Longmeadow: 2,[78]\d0 kb\/s fits/)
  })
})

describe('strata', () => {
  /** A line that the sends overflow, headroom and all. */
  const overflown = show(3800, [destination(), destination({ videoBitrateKbps: 5000 })])

  it('lie side by side, and mark what is past the usable upload', () => {
    const strata = strataOf(budgetOf(overflown))
    const [first, second] = strata.slabs
    expect(first?.from).toBe(0)
    expect(second?.from).toBeCloseTo(first?.width ?? 0, 9)
    expect(first?.shareWithin).toBe(1)
    expect(second?.shareWithin).toBeGreaterThan(0)
    expect(second?.shareWithin).toBeLessThan(1)
    expect((second?.from ?? 0) + (second?.width ?? 0)).toBeCloseTo(1, 9)
  })

  it('leave of the headroom what no send takes', () => {
    const over = budgetOf(overflown)
    expect(strataOf(over).headroom).toEqual({ from: 1, width: 0 })
    // What is carried now is drawn on the same width, and never beyond it.
    const drawn = strataOf(over)
    expect(shareOfStrata(drawn, drawn.wholeKbps / 4)).toBe(0.25)
    expect(shareOfStrata(drawn, drawn.wholeKbps * 2)).toBe(1)
    const within = { ...over, upload: { ...over.upload, measuredKbps: 2 * over.totalKbps } }
    const { headroom } = strataOf(within)
    expect(headroom.from).toBeCloseTo(0.5, 9)
    expect(headroom.width).toBeCloseTo(0.5, 9)
  })

  it('share the measured line out without rest: usable, other traffic, headroom', () => {
    const { usableTick, otherTraffic, headroom } = strataOf(budgetOf(demoShow))
    expect(otherTraffic.from).toBe(usableTick)
    expect(headroom.from).toBeCloseTo(usableTick + otherTraffic.width, 9)
    expect(headroom.from + headroom.width).toBeCloseTo(1, 9)
  })

  it('show the room for peaks at the near end of the headroom, and none where sends took it', () => {
    const budget = budgetOf(demoShow)
    const { headroom, peaks } = strataOf(budget)
    expect(peaks.from).toBe(headroom.from)
    expect(peaks.width).toBeCloseTo(budget.upload.peaksKbps / budget.upload.measuredKbps, 9)
    expect(peaks.width).toBeLessThan(headroom.width)
    expect(strataOf(budgetOf(overflown)).peaks.width).toBe(0)
  })
})

describe('room for peaks', () => {
  const [line] = show(8000, []).lines
  const usableKbps = (rateControl: 'constant' | 'variable', on = true): number => {
    const one = destination()
    const [rendition] = one.renditions
    const encoder = { ...rendition!.encoder, rateControl }
    return budgetOf({
      ...show(8000, [{ ...one, on, renditions: [{ ...rendition!, encoder }] }]),
      lines: [{ ...line!, headroomPercent: 15 }],
    }).upload.usableKbps
  }

  it('is part of what may be spent: a variable bitrate of one that is on leaves less', () => {
    expect(usableKbps('constant')).toBe(16_000 * 0.85)
    expect(usableKbps('variable')).toBeCloseTo(16_000 / 1.3, 6)
    expect(usableKbps('variable', false)).toBe(16_000 * 0.85)
  })

  it('is reckoned with where more upload is given', () => {
    for (const headroomPercent of [0, 10, 30]) {
      const given = { ...show(8000, []), lines: [{ ...line!, headroomPercent }] }
      const traffic = { id: 'x', name: 'x', on: true, bitrateKbps: -trafficToFreeKbps(given, 1000) }
      const after = { ...given, lines: [{ ...given.lines[0]!, otherTraffic: [traffic] }] }
      const [before, more] = [given, after].map((each) => usableUploadOf(each).usableKbps)
      expect(more! - before!).toBeCloseTo(1000, 6)
    }
  })
})
