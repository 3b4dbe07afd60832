import { demoShow } from '@green-mantle/demo'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { ourDressings, type Source } from '../show'
import { alertEverySeconds, alertStaysSeconds, feedAt } from './feed'
import { baselinesOf, cornerRadiusOf, type Part, partsOfPlacement } from './parts'
import { anyPlacement, placed } from './testPlacements'
import { linesOf } from './words'
import { runsOf } from '../../tests/tier'

const canvas = { width: 1920, height: 1080 }
const [lichen, paper, glass] = ourDressings
const source = (id: string): Source => demoShow.sources.find((one) => one.id === id)!
const kindsOf = (parts: Part[]) => parts.map(({ kind }) => kind)
const words = (parts: Part[]) =>
  parts.flatMap((part) => (part.kind === 'words' ? part.lines : [])).join(' ')

describe('the lines of a text', () => {
  const type = { font: 'Literata', weight: 400, sizePixels: 10, wrap: true } as const
  // Every letter is one em wide, so ten letters take 100 px.
  const measure = (text: string) => text.length

  it('break at spaces where they would be too wide', () => {
    expect(linesOf('one two three', type, 70, measure)).toEqual(['one two', 'three'])
    expect(linesOf('one two three', type, 60, measure)).toEqual(['one', 'two', 'three'])
    expect(linesOf('one\ntwo three', type, 200, measure)).toEqual(['one', 'two three'])
    expect(linesOf('unbreakable', type, 50, measure)).toEqual(['unbreakable'])
    expect(linesOf('one two three', { ...type, wrap: false }, 60, measure)).toEqual([
      'one two three',
    ])
  })

  it('lose no word', () => {
    const text = fc.array(fc.stringMatching(/^[a-z]{1,12}$/), { minLength: 1, maxLength: 20 })
    fc.assert(
      fc.property(text, fc.integer({ min: 1, max: 400 }), (list, width) => {
        expect(linesOf(list.join(' '), type, width, measure).join(' ')).toBe(list.join(' '))
      }),
    )
  })
})

describe('what is drawn of a placement', () => {
  it('is the used part of a picture, framed and named as the dressing says', () => {
    const drawn = (dressing: typeof paper | typeof lichen, changes = {}) =>
      partsOfPlacement({
        placement: placed({ trim: { left: 100, top: 0, right: 20, bottom: 80 }, ...changes }),
        source: source('bench-camera'),
        dressing,
        canvas,
      })
    expect(drawn(lichen)[0]).toMatchObject({
      kind: 'picture',
      crop: { x: 100, y: 0, width: 1800, height: 1000 },
    })
    expect(kindsOf(drawn(lichen))).toEqual(['picture'])
    expect(kindsOf(drawn(paper))).toEqual(['picture', 'rectangle', 'rectangle', 'words'])
    expect(words(drawn(paper))).toBe('Bench camera')
    expect(kindsOf(drawn(paper, { dressed: false }))).toEqual(['picture'])
    // A frame about the whole canvas would frame nothing.
    expect(kindsOf(drawn(paper, { x: 0, y: 0, ...canvas }))).toEqual(['picture'])
  })

  it('stays within its box and keeps frame and goal whole, whatever the placement', () => {
    fc.assert(
      fc.property(anyPlacement, (placement) => {
        for (const id of ['bench-camera', 'seed-fund', 'alerts'])
          for (const dressing of ourDressings)
            for (const part of partsOfPlacement({
              placement,
              source: source(id),
              dressing,
              canvas,
            })) {
              const { x, width, height } = part.box
              expect(x).toBeGreaterThanOrEqual(-1e-6)
              expect(width).toBeLessThanOrEqual(placement.width + 1e-6)
              expect(height).toBeLessThanOrEqual(placement.height + 1e-6)
              expect(Math.min(width, height)).toBeGreaterThanOrEqual(0)
            }
      }),
      { numRuns: runsOf(50) },
    )
  })

  it('rounds by its own corners, or the dressing’s scaled to the canvas, and never past a half', () => {
    const small = { width: 960, height: 540 }
    expect(cornerRadiusOf(placed({ width: 400, height: 300 }), glass, small)).toBe(14)
    expect(cornerRadiusOf(placed({ cornerRadius: 5 }), glass, canvas)).toBe(5)
    expect(cornerRadiusOf(placed({ dressed: false }), glass, canvas)).toBe(0)
    expect(cornerRadiusOf(placed({ height: 20, cornerRadius: 500 }), glass, canvas)).toBe(10)
  })

  it('follows the feed in goals and alerts where one runs', () => {
    const drawn = (id: string, feed?: { percent: number; alert: string | null }) =>
      partsOfPlacement({ placement: placed(), source: source(id), dressing: lichen, canvas, feed })
    const filled = (parts: Part[]) => parts.at(-1)!.box.width / parts.at(-2)!.box.width
    expect(filled(drawn('seed-fund'))).toBeCloseTo(0.62, 9)
    expect(filled(drawn('seed-fund', { percent: 80, alert: null }))).toBeCloseTo(0.8, 9)
    expect(words(drawn('alerts'))).toBe('Ines gave to the seed fund')
    expect(words(drawn('alerts', { percent: 0, alert: 'Pia follows now' }))).toBe('Pia follows now')
    expect(drawn('alerts', { percent: 0, alert: null })).toEqual([])
  })

  it('puts lines in the middle of their box, one below the other', () => {
    const [first, second] = baselinesOf({
      kind: 'words',
      box: { x: 0, y: 100, width: 10, height: 200 },
      lines: ['a', 'b'],
      font: 'Literata',
      weight: 400,
      fontSize: 40,
      colour: '#000000',
      align: 'left',
    })
    expect(second! - first!).toBe(50)
    // The middle of the capitals, 0.35 em up, is the middle of the box.
    expect((first! + second!) / 2 - 14).toBeCloseTo(200, 9)
  })
})

describe('the simulated feed', () => {
  it('shows an alert for a while, then none, and brings the goal nearer', () => {
    expect(feedAt(0, 40).alert).toMatch(/^\w+ /)
    expect(feedAt(alertStaysSeconds + 0.1, 40).alert).toBeNull()
    expect(feedAt(alertEverySeconds, 40).percent).toBeGreaterThan(feedAt(0, 40).percent)
    expect(feedAt(alertEverySeconds, 40).alert).not.toBe(feedAt(0, 40).alert)
  })

  it('stays between what was set and 100, and is the same for the same second', () => {
    fc.assert(
      fc.property(fc.nat(100_000), fc.integer({ min: 0, max: 100 }), (seconds, set) => {
        const { percent } = feedAt(seconds, set)
        expect(percent).toBeGreaterThanOrEqual(set)
        expect(percent).toBeLessThanOrEqual(100)
        expect(feedAt(seconds, set)).toEqual(feedAt(seconds, set))
      }),
    )
  })
})
