import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { highestBitrateKbps, isLevelAbove, lowestLevel, pictureScore } from '../../media'
import { tcpCeilingKbps, wireRateKbps } from '../../network'
import { codecs, efforts, newRendition, newRules, protocols, type Rendition } from '../../show'
import {
  acceptedRange,
  choiceOf,
  bitsTables,
  worthTables,
  firstAtLeast,
  meanShapeTerm,
  wireTables,
} from './choices'
import type { Shape } from './problem'

const steps = Array.from({ length: 240 }, (_, index) => (index + 1) * 50)
const rendition = newRendition('one', 'landscape')
const shape: Shape = {
  ...{ canvas: 'landscape', width: 1280, height: 720, framesPerSecond: 60 },
  ...{ codec: 'h264', effort: 'balanced' },
}
const path = (roundTripMilliseconds: number | null, lossPercent: number | null) => ({
  roundTripMilliseconds,
  lossPercent,
})

describe('a place in a list', () => {
  it('is that of the first value that is no less', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 0, max: 99 })),
        fc.integer({ min: -5, max: 105 }),
        (drawn, least) => {
          const values = drawn.sort((a, b) => a - b)
          const found = values.findIndex((value) => value >= least)
          expect(firstAtLeast(values, least)).toBe(found < 0 ? values.length : found)
        },
      ),
    )
  })
})

describe('the accepted bitrates', () => {
  it('are those that rules and levels accept one by one', () => {
    const drawn = fc.record({
      picture: fc.constantFrom(
        { width: 640, height: 360 },
        { width: 1280, height: 720 },
        { width: 1080, height: 1920 },
      ),
      framesPerSecond: fc.constantFrom<Rendition['framesPerSecond']>(30, 60),
      codec: fc.constantFrom(...codecs),
      cap: fc.constantFrom(null, '3.1', '4', '4.2'),
      least: fc.constantFrom(null, 300, 4000),
      most: fc.constantFrom(200, 6000, 12_000),
    })
    fc.assert(
      fc.property(drawn, ({ picture, framesPerSecond, codec, cap, least, most }) => {
        const rules = {
          leastVideoBitrateKbps: least,
          mostVideoBitrateKbps: most,
          highestLevel: { ...newRules('landscape').highestLevel, [codec]: cap },
        }
        const isAccepted = (videoBitrateKbps: number): boolean => {
          const level = lowestLevel({ ...picture, framesPerSecond, codec, videoBitrateKbps })
          const isWithin = level !== null && (cap === null || !isLevelAbove(level, cap))
          return isWithin && videoBitrateKbps >= (least ?? 0) && videoBitrateKbps <= most
        }
        const range = acceptedRange(rules, { ...picture, framesPerSecond, codec }, steps)
        expect(range ? steps.slice(range.first, range.end) : []).toEqual(steps.filter(isAccepted))
      }),
    )
  })

  it('of a level end at its own limit for High', () => {
    // ITU-T H.264, Table A-1, level 3.1: 14,000 kb/s, × 1.25 for High; written down from memory.
    const picture = { codec: 'h264', width: 1280, height: 720, framesPerSecond: 30 } as const
    expect(highestBitrateKbps(picture, '3.1')).toBe(17_500)
    expect(highestBitrateKbps(picture, '3')).toBeNull()
  })
})

describe('what sends take', () => {
  it('is the wire rate rounded up, once for each ingest, and the same list for those that are alike', () => {
    const tableFor = wireTables(steps)
    for (const protocol of protocols) {
      const sender = { protocol, path: path(null, null), backupAddress: null }
      const table = tableFor(sender, rendition)
      const rates = steps.map((videoBitrateKbps) =>
        Math.ceil(wireRateKbps({ ...rendition, videoBitrateKbps }, protocol)),
      )
      expect([...table]).toEqual(rates)
      expect(tableFor({ ...sender }, { ...rendition, codec: 'hevc' })).toBe(table)
      const twice = tableFor({ ...sender, backupAddress: 'rtmp://backup.example/live' }, rendition)
      expect([...twice]).toEqual(rates.map((rate) => rate * 2))
    }
  })

  it('knows the chunks and the loss of each path by themselves', () => {
    const tableFor = wireTables(steps)
    const paths = [
      { ...path(null, null), rtmpChunkBytes: 128 },
      path(null, null),
      { ...path(null, null), rtmpChunkBytes: 65_536 },
      path(null, 3),
    ]
    for (const own of paths)
      for (const protocol of protocols) {
        const table = tableFor({ protocol, path: own, backupAddress: null }, rendition)
        expect([...table]).toEqual(
          steps.map((videoBitrateKbps) =>
            Math.ceil(wireRateKbps({ ...rendition, videoBitrateKbps }, protocol, own)),
          ),
        )
      }
  })

  it('ends where the path carries no more', () => {
    const ceilingKbps = tcpCeilingKbps(100, 0.1)
    const sender = { protocol: 'rtmps', path: path(100, 0.1), backupAddress: null } as const
    const table = wireTables(steps)(sender, rendition)
    steps.forEach((videoBitrateKbps, index) => {
      const carried = wireRateKbps({ ...rendition, videoBitrateKbps }, 'rtmps') <= ceilingKbps
      expect(table[index]! >= 0).toBe(carried)
    })
    expect(table[0]).toBeGreaterThan(0)
    expect(table.at(-1)).toBe(-1)
  })
})

describe('a choice', () => {
  const judged = {
    shapeTerm: meanShapeTerm(shape, 'talking', ['desk']),
    lookAheadFrames: 5,
    steps: 1,
  }
  const make = (range: { first: number; end: number }, listedTo = 0, carriedTo = steps.length) =>
    choiceOf(
      0,
      range,
      { priority: 3 },
      {
        isOffered: new Uint8Array(steps.length).fill(1),
        listedTo,
        worthOf: worthTables([shape], 'talking', steps)(judged),
        wireKbps: Int32Array.from(steps, (kbps, at) => (at < carriedTo ? kbps : -1)),
        diskMegabytes: null,
        mayBeFed: false,
      },
    )

  it('counts priority × score in hundredths of a point, up to where more no longer helps', () => {
    const choice = make({ first: 10, end: 240 })!
    choice.scores.forEach((units, at) => {
      const videoBitrateKbps = steps[10 + at]!
      const score = pictureScore(
        { ...shape, videoBitrateKbps, encoder: { lookAheadFrames: 5 } },
        'talking',
        'desk',
      )
      expect(units).toBe(3 * Math.round(100 * score))
    })
    const best = choice.scores.at(-1)!
    expect(choice.scores.filter((units) => units === best)).toHaveLength(1)
    expect(choice.scores.length).toBeLessThan(230)
  })

  it('goes on to what others list, and no further than the path carries', () => {
    expect(make({ first: 0, end: 240 }, 200)!.scores).toHaveLength(200)
    expect(make({ first: 0, end: 240 }, 200, 30)!.scores).toHaveLength(30)
    expect(make({ first: 40, end: 240 }, 0, 30)).toBeNull()
  })

  it('is the finer for more look-ahead, where the picture is calm', () => {
    const calm = bitsTables([shape], 'talking', steps)
    expect(calm(0, 20).fineness[30]).toBeGreaterThan(calm(0, 0).fineness[30]!)
    expect(calm(0, 250).fineness[30]).toBe(calm(0, 20).fineness[30])
    const action = bitsTables([shape], 'action', steps)
    expect(action(0, 20).fineness[30]).toBe(action(0, 0).fineness[30])
  })

  it('is the finer for more effort', () => {
    const shapes = efforts.map((effort): Shape => ({ ...shape, effort }))
    const tables = bitsTables(shapes, 'action', steps)
    for (let index = 1; index < efforts.length; index += 1)
      expect(tables(index, 20).fineness[60]! > tables(index - 1, 20).fineness[60]!).toBe(true)
  })
})
