import { demoShow } from '@green-mantle/demo'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Show } from '../show'
import { inProportion, sameAs, stretched } from './arrange'
import { withCanvasSize } from './canvasSize'
import { focusBetween, focusOnCanvas, isFocusWhole, defaultFocus, withFocusSide } from './focus'
import { boundsOf } from './geometry'
import { movedClear } from './moveClear'
import { isReadable, textFontSize, wordsSize } from './readable'
import { clearPlacement, coveringsOf } from './sceneChecks'
import { aligned, boundsOfAll, distributed, equallySized } from './several'
import { anyPlacement, nativeSize, placed } from './testPlacements'
import { edgeNear, trimmedTo, withTrim } from './trim'
import { appearsOn, screenFor, viewsOf } from './viewing'
import { runsOf } from '../../tests/tier'

const canvas = { width: 1080, height: 1920 }

describe('moving clear', () => {
  const box = fc.record({
    x: fc.integer({ min: -50, max: 380 }),
    y: fc.integer({ min: -50, max: 380 }),
    width: fc.integer({ min: 10, max: 300 }),
    height: fc.integer({ min: 10, max: 300 }),
  })
  const small = { width: 400, height: 400 }

  it('finds the nearest free position, as trying every whole pixel does', () => {
    fc.assert(
      fc.property(
        fc.record({
          x: fc.integer({ min: 0, max: 300 }),
          y: fc.integer({ min: 0, max: 300 }),
          width: fc.integer({ min: 20, max: 90 }),
          height: fc.integer({ min: 20, max: 90 }),
        }),
        fc.array(box, { maxLength: 4 }),
        (changes, obstacles) => {
          const placement = placed(changes)
          const isCentred = (start: number, length: number) =>
            Math.abs(start + length / 2 - 200) <= 1
          // Alignment has a test of its own.
          fc.pre(!isCentred(changes.x, changes.width) && !isCentred(changes.y, changes.height))
          let nearest = Infinity
          for (let x = 0; x <= small.width - changes.width; x += 1)
            for (let y = 0; y <= small.height - changes.height; y += 1) {
              const isFree = obstacles.every(
                (o) =>
                  x >= o.x + o.width ||
                  o.x >= x + changes.width ||
                  y >= o.y + o.height ||
                  o.y >= y + changes.height,
              )
              if (isFree) nearest = Math.min(nearest, Math.hypot(x - changes.x, y - changes.y))
            }
          const found = movedClear(placement, small, obstacles)
          if (!found) {
            expect(nearest).toBe(Infinity)
            return
          }
          expect(Math.hypot(found.x - changes.x, found.y - changes.y)).toBeCloseTo(nearest, 6)
          expect([found.width, found.height]).toEqual([changes.width, changes.height])
        },
      ),
      { numRuns: runsOf(25) },
    )
  })

  it('keeps what is centred across in the middle, although a nearer place is beside', () => {
    const placement = placed({ x: 260, y: 1400, width: 560, height: 120 })
    const zone = { x: 200, y: 1300, width: 640, height: 500 }
    expect(movedClear(placement, canvas, [zone])).toMatchObject({ x: 260, y: 1180 })
  })

  it('says so where there is no free place', () => {
    expect(movedClear(placed(), canvas, [{ x: 0, y: 0, ...canvas }])).toBeNull()
  })

  it('moves the goal of the demo out of the comments', () => {
    const [scene] = demoShow.scenes
    expect(coveringsOf(demoShow, scene!, 'petals-wide-seed-fund', 'vertical')[0]).toMatchObject({
      destination: { name: 'Flickerbrook' },
      mode: 'feed',
      zones: ['comments'],
      share: 1,
    })
    const moved = clearPlacement(demoShow, scene!, 'petals-wide-seed-fund', 'vertical')!
    const show: Show = structuredClone(demoShow)
    show.scenes[0]!.layers[0]!.vertical = moved
    expect(coveringsOf(show, show.scenes[0]!, 'petals-wide-seed-fund', 'vertical')).toEqual([])
    expect([moved.width, moved.height]).toEqual([560, 110])
    expect(moved.y + moved.height).toBeLessThanOrEqual(0.68 * 1920)
  })
})

describe('several at once', () => {
  const three = fc.array(anyPlacement, { minLength: 3, maxLength: 6 })

  it.each(['left', 'centre', 'right', 'top', 'middle', 'bottom'] as const)(
    'aligns %s within the box around them',
    (how) => {
      fc.assert(
        fc.property(three, (placements) => {
          const around = boundsOfAll(placements)!
          const boxes = aligned(placements, how, canvas).map(boundsOf)
          const share = { left: 0, top: 0, centre: 0.5, middle: 0.5, right: 1, bottom: 1 }[how]
          const isAcross = ['left', 'centre', 'right'].includes(how)
          for (const box of boxes)
            if (isAcross)
              expect(box.x + share * box.width).toBeCloseTo(around.x + share * around.width, 1)
            else expect(box.y + share * box.height).toBeCloseTo(around.y + share * around.height, 1)
        }),
      )
    },
  )

  it('aligns one alone to the canvas', () => {
    expect(aligned([placed()], 'right', canvas)[0]).toMatchObject({ x: 120, y: 640 })
  })

  it('leaves equal distances and the outermost two where they are', () => {
    fc.assert(
      fc.property(
        three,
        fc.constantFrom('across' as const, 'down' as const),
        (placements, axis) => {
          const [start, length] =
            axis === 'across' ? (['x', 'width'] as const) : (['y', 'height'] as const)
          const middle = (box: ReturnType<typeof boundsOf>) => box[start] + box[length] / 2
          const before = placements.map(boundsOf).sort((a, b) => middle(a) - middle(b))
          const after = distributed(placements, axis).map(boundsOf)
          const order = placements
            .map((placement, index) => ({ index, at: middle(boundsOf(placement)) }))
            .sort((a, b) => a.at - b.at)
            .map(({ index }) => after[index]!)
          expect(order[0]![start]).toBeCloseTo(before[0]![start], 1)
          expect(order.at(-1)![start]).toBeCloseTo(before.at(-1)![start], 1)
          const gaps = order
            .slice(1)
            .map((box, index) => box[start] - order[index]![start] - order[index]![length])
          for (const gap of gaps) expect(Math.abs(gap - gaps[0]!)).toBeLessThan(0.1)
        },
      ),
    )
  })

  it('gives all the size of the first about their own middles', () => {
    const [first, second] = equallySized([
      placed(),
      placed({ x: 0, y: 0, width: 100, height: 100 }),
    ])
    expect(first).toEqual(placed())
    expect(second).toMatchObject({ width: 960, height: 540, x: -430, y: -220 })
  })
})

describe('trimming by an edge', () => {
  it('puts the edge where the hand is, in the source’s own pixels', () => {
    const placement = placed({ x: 0, y: 0, width: 960, height: 540 })
    expect(edgeNear(placement, nativeSize, { x: 4, y: 270 }, 8)).toBe('left')
    expect(edgeNear(placement, nativeSize, { x: 480, y: 270 }, 8)).toBeUndefined()
    const trim = trimmedTo(placement, nativeSize, 'left', { x: 100, y: 270 })
    expect(trim).toEqual({ left: 200, top: 0, right: 0, bottom: 0 })
    expect(withTrim(placement, nativeSize, trim)).toMatchObject({ x: 100, width: 860 })
  })

  it('knows the edges of a flipped and turned one by the source', () => {
    const placement = placed({ x: 0, y: 0, width: 960, height: 540, flippedAcross: true })
    expect(edgeNear(placement, nativeSize, { x: 4, y: 270 }, 8)).toBe('right')
    const turned = placed({ x: 0, y: 0, width: 960, height: 540, turnDegrees: 180 })
    expect(edgeNear(turned, nativeSize, { x: 4, y: 270 }, 8)).toBe('right')
  })

  it('never trims to nothing', () => {
    fc.assert(
      fc.property(anyPlacement, fc.integer({ min: -5000, max: 5000 }), (placement, at) => {
        const { left, right } = trimmedTo(placement, nativeSize, 'left', { x: at, y: at })
        expect(left + right).toBeLessThanOrEqual(nativeSize.width - 1)
        expect(left).toBeGreaterThanOrEqual(0)
      }),
    )
  })
})

describe('as viewers see it', () => {
  const landscape = { width: 1920, height: 1080 }
  it.each([
    ['landscape on an upright phone', landscape, 'full screen', 'phone', 'above and below', 0.3164],
    ['landscape on a turned phone', landscape, 'phone turned', 'phone', 'none', 1],
    ['vertical in the feed', canvas, 'feed', 'phone', 'none', 1],
    ['vertical on a desk screen', canvas, 'full screen', 'desk', 'beside', 0.3164],
    ['vertical on a television', canvas, 'full screen', 'tv', 'beside', 0.3164],
  ] as const)('%s', (_name, size, mode, viewer, bars, share) => {
    const seen = appearsOn(size, screenFor(mode, viewer))
    expect(seen.bars).toBe(bars)
    // (9/16)² of the screen, where the shapes are opposite.
    expect(seen.screenShare).toBeCloseTo(share, 4)
    expect(seen.picture.width / seen.picture.height).toBeCloseTo(size.width / size.height, 9)
  })

  it('offers the feed for vertical pictures only', () => {
    const modes = (canvas: 'landscape' | 'vertical') =>
      viewsOf({ canvas, viewers: ['phone', 'desk'] }).map(({ mode, viewer }) => `${mode} ${viewer}`)
    expect(modes('vertical')).toEqual([
      'feed phone',
      'full screen phone',
      'phone turned phone',
      'full screen desk',
    ])
    expect(modes('landscape')).not.toContain('feed phone')
  })
})

describe('sizes', () => {
  it('stands the same on the other canvas, scaled by the shorter sides', () => {
    const other = placed({ x: 0, y: 0, width: 540, height: 304, turnDegrees: 10, cornerRadius: 8 })
    const same = sameAs(placed({ locked: true }), other, { width: 2560, height: 1440 }, canvas)
    expect(same.width).toBeCloseTo((540 * 1440) / 1080, 1)
    expect(same.x + same.width / 2).toBeCloseTo((270 / 1080) * 2560, 1)
    expect(same).toMatchObject({ turnDegrees: 10, locked: true })
    expect(same.cornerRadius).toBeCloseTo((8 * 1440) / 1080, 9)
  })

  it('stretches over the canvas and finds its proportions again', () => {
    const wide = stretched(placed({ turnDegrees: 30 }), canvas)
    expect(wide).toMatchObject({ x: 0, y: 0, width: 1080, height: 1920, turnDegrees: 0 })
    expect(inProportion(wide, nativeSize)).toMatchObject({ width: 1080, height: 607.5, y: 656.25 })
  })

  it('keeps pixels about the middle of a canvas that changes, where that is wanted', () => {
    const next = { width: 1280, height: 720 }
    const show = withCanvasSize(demoShow, 'landscape', next, 'keep pixels')
    const [before, after] = [demoShow, show].map((some) => some.scenes[0]!.layers[0]!.landscape)
    expect(after!.width).toBe(before!.width)
    expect(after!.x + after!.width / 2 - 640).toBe(before!.x + before!.width / 2 - 960)
    expect(withCanvasSize(show, 'landscape', { width: 1920, height: 1080 }, 'keep pixels')).toEqual(
      demoShow,
    )
  })
})

describe('words', () => {
  const caption = demoShow.sources.find(({ id }) => id === 'caption')!
  const goal = demoShow.sources.find(({ id }) => id === 'seed-fund')!

  it('scale with their box, and keep their area where they wrap', () => {
    const text = { sizePixels: 50, wrap: true }
    expect(textFontSize({ width: 1800, height: 240 }, caption, text)).toBeCloseTo(100, 9)
    expect(textFontSize({ width: 450, height: 240 }, caption, text)).toBeCloseTo(50, 9)
    expect(textFontSize({ width: 450, height: 240 }, caption, { ...text, wrap: false })).toBe(25)
  })

  it('can be read from 2 % of the canvas’s height on', () => {
    expect(wordsSize({ width: 560, height: 110 }, goal)).toBeCloseTo(30.8, 9)
    expect(isReadable({ width: 560, height: 110 }, goal, canvas)).toBe(false)
    expect(isReadable({ width: 560, height: 110 }, goal, { width: 1920, height: 1080 })).toBe(true)
    expect(wordsSize(placed(), demoShow.sources[0]!)).toBeNull()
  })
})

describe('the focus of a source', () => {
  const focus = { x: 480, y: 120, width: 760, height: 840 }
  it('is whole as long as no trim reaches into it', () => {
    const trim = (left: number) => ({ left, top: 0, right: 0, bottom: 0 })
    expect(isFocusWhole(focus, nativeSize, trim(480))).toBe(true)
    expect(isFocusWhole(focus, nativeSize, trim(481))).toBe(false)
    expect(isFocusWhole(null, nativeSize, trim(900))).toBe(true)
  })

  it('is drawn and typed within the source', () => {
    const point = fc.record({
      x: fc.integer({ min: -500, max: 2500 }),
      y: fc.integer({ min: -500, max: 1500 }),
    })
    const side = fc.constantFrom('x' as const, 'y' as const, 'width' as const, 'height' as const)
    const isWithin = (some: typeof focus) =>
      some.x >= 0 &&
      some.y >= 0 &&
      Math.min(some.width, some.height) >= 1 &&
      some.x + some.width <= nativeSize.width &&
      some.y + some.height <= nativeSize.height
    fc.assert(
      fc.property(
        point,
        point,
        side,
        fc.integer({ min: -50, max: 3000 }),
        (from, to, key, value) => {
          const drawn = focusBetween(from, to, nativeSize)
          expect(isWithin(drawn)).toBe(true)
          expect(isWithin(withFocusSide(drawn, key, value, nativeSize))).toBe(true)
        },
      ),
    )
    expect(defaultFocus(nativeSize)).toEqual({ x: 480, y: 270, width: 960, height: 540 })
  })

  it('stands where the source stands', () => {
    const [corner] = focusOnCanvas(placed({ x: 0, y: 0 }), nativeSize, focus)
    expect(corner).toEqual({ x: 240, y: 60 })
  })
})
