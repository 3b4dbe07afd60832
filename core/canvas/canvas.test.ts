import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Size } from '../show'
import { centred, moved, scaledTo, turnedByQuarter, withBox } from './arrange'
import { placementOnNewSize } from './canvasSize'
import { captionFontSize, cropOf, displayScale, goalBarParts, shownSourceWidth } from './content'
import { boundsOf, boxFromNode, cornersOf, isOffCanvas, middleOf } from './geometry'
import { sharpness } from './sharpness'
import { anyPlacement, anyTrim as trim, nativeSize, placed } from './testPlacements'
import { sourceToCanvas, usedPart, withTrim } from './trim'

const native = nativeSize
const canvas: Size = { width: 1080, height: 1920 }
const placement = placed

describe('corners and bounds', () => {
  it('turns clockwise about the middle', () => {
    const [upperLeft] = cornersOf(
      placement({ x: 0, y: 0, width: 200, height: 100, turnDegrees: 90 }),
    )
    expect(upperLeft?.x).toBeCloseTo(150, 9)
    expect(upperLeft?.y).toBeCloseTo(-50, 9)
  })

  it('keeps middle and area, whatever the turn', () => {
    fc.assert(
      fc.property(anyPlacement, (some) => {
        const corners = cornersOf(some)
        const middle = middleOf(some)
        expect(corners.reduce((sum, { x }) => sum + x, 0) / 4).toBeCloseTo(middle.x, 6)
        expect(corners.reduce((sum, { y }) => sum + y, 0) / 4).toBeCloseTo(middle.y, 6)
        // Shoelace formula.
        const doubled = corners.reduce((sum, { x, y }, index) => {
          const next = corners[(index + 1) % 4]!
          return sum + x * next.y - next.x * y
        }, 0)
        expect(Math.abs(doubled) / 2).toBeCloseTo(some.width * some.height, 3)
      }),
    )
  })

  it('knows what is off the canvas', () => {
    expect(isOffCanvas(placement({ x: 1080 }), canvas)).toBe(true)
    expect(isOffCanvas(placement({ x: 1079 }), canvas)).toBe(false)
    expect(isOffCanvas(placement({ x: -960 }), canvas)).toBe(true)
  })

  it('reads the box off a node that was scaled by hand', () => {
    const box = boxFromNode({
      middleX: 100,
      middleY: 50,
      width: 100,
      height: 60,
      scaleX: -2,
      scaleY: 0.5,
      turnDegrees: 30,
    })
    expect(box).toEqual({ x: 0, y: 35, width: 200, height: 30, turnDegrees: 30 })
  })
})

describe('trim', () => {
  it('keeps what stays visible where it is', () => {
    fc.assert(
      fc.property(
        anyPlacement,
        trim,
        fc.integer({ min: 0, max: 1920 }),
        fc.integer({ min: 0, max: 1080 }),
        (placed, wanted, x, y) => {
          const after = withTrim(placed, native, wanted)
          // A placement is never thinner than a pixel, at which its scale may change.
          fc.pre(after.width > 1 && after.height > 1)
          const before = sourceToCanvas(placed, native, { x, y })
          const now = sourceToCanvas(after, native, { x, y })
          expect(Math.hypot(now.x - before.x, now.y - before.y)).toBeLessThan(1e-4)
        },
      ),
    )
  })

  it('always leaves at least a pixel of the source', () => {
    const wild = fc.integer({ min: -500, max: 5000 })
    fc.assert(
      fc.property(anyPlacement, wild, wild, wild, wild, (placed, left, top, right, bottom) => {
        const after = withTrim(placed, native, { left, top, right, bottom })
        const used = usedPart(native, after.trim)
        expect(used.width).toBeGreaterThanOrEqual(1)
        expect(used.height).toBeGreaterThanOrEqual(1)
        expect(
          Math.min(after.trim.left, after.trim.top, after.trim.right, after.trim.bottom),
        ).toBeGreaterThanOrEqual(0)
        expect(Math.min(after.width, after.height)).toBeGreaterThanOrEqual(1)
      }),
    )
  })
})

describe('arranging', () => {
  it('moves by canvas pixels and keeps everything else', () => {
    fc.assert(
      fc.property(anyPlacement, fc.integer({ min: -50, max: 50 }), (placed, by) => {
        const there = moved(placed, by, -by)
        expect(moved(there, -by, by)).toEqual(placed)
        expect({ ...there, x: placed.x, y: placed.y }).toEqual(placed)
      }),
    )
  })

  it('resizes to no less than a pixel', () => {
    expect(withBox(placement(), { width: -5, height: 0 })).toMatchObject({ width: 1, height: 1 })
  })

  it('centres across, down and both', () => {
    expect(centred(placement({ x: 0 }), canvas, 'across')).toMatchObject({ x: 60, y: 640 })
    expect(centred(placement(), canvas, 'down')).toMatchObject({ x: 60, y: 690 })
    expect(centred(placement({ x: 0 }), canvas, 'both')).toMatchObject({ x: 60, y: 690 })
  })

  it('fits inside and fills without a bare edge, in the source’s own proportions', () => {
    fc.assert(
      fc.property(anyPlacement, (placed) => {
        const used = usedPart(native, placed.trim)
        const upright = { ...placed, turnDegrees: 0 }
        const fitted = scaledTo(upright, native, canvas, 'fit')
        expect(fitted.width).toBeLessThanOrEqual(canvas.width + 0.01)
        expect(fitted.height).toBeLessThanOrEqual(canvas.height + 0.01)
        const filled = scaledTo(upright, native, canvas, 'fill')
        expect(filled.width).toBeGreaterThanOrEqual(canvas.width - 0.01)
        expect(filled.height).toBeGreaterThanOrEqual(canvas.height - 0.01)
        expect(filled.width / filled.height).toBeCloseTo(used.width / used.height, 1)
      }),
    )
  })

  it('comes back after four quarter turns', () => {
    const quarter = [1, 2, 3, 4].reduce(turnedByQuarter, placement())
    expect(quarter).toEqual(placement())
    expect(boundsOf(turnedByQuarter(placement()))).toMatchObject({ width: 540, height: 960 })
  })
})

describe('a new canvas size', () => {
  it('keeps proportions, and comes back with the old size', () => {
    const side = fc.integer({ min: 80, max: 3840 }).map((half) => half * 2)
    fc.assert(
      fc.property(anyPlacement, fc.record({ width: side, height: side }), (placed, scale) => {
        const twice = { width: canvas.width * 2, height: canvas.height * 2 }
        const there = placementOnNewSize(placed, canvas, twice)
        expect(there.width).toBeCloseTo(placed.width * 2, 6)
        expect(placementOnNewSize(there, twice, canvas).x).toBeCloseTo(placed.x, 6)
        const elsewhere = placementOnNewSize(placed, canvas, scale)
        fc.pre(elsewhere.width > 1 && elsewhere.height > 1)
        expect(elsewhere.width / elsewhere.height).toBeCloseTo(placed.width / placed.height, 6)
        expect(sharpness(there, native)).toBeCloseTo(sharpness(placed, native) / 2, 9)
      }),
    )
  })
})

describe('what is drawn', () => {
  it('takes the used part out of a bitmap of the whole', () => {
    const crop = cropOf(
      native,
      { left: 480, top: 270, right: 0, bottom: 0 },
      { width: 960, height: 540 },
    )
    expect(crop).toEqual({ x: 240, y: 135, width: 720, height: 405 })
  })

  it('knows how wide the whole source is on the screen', () => {
    expect(shownSourceWidth(placement(), native, 0.5)).toBe(480)
    const half = { left: 960, right: 0, top: 0, bottom: 0 }
    expect(shownSourceWidth(placement({ trim: half }), native, 0.5)).toBe(960)
  })

  it('scales a canvas to the space there is', () => {
    expect(displayScale(canvas, { width: 540, height: 2000 })).toBe(0.5)
    expect(displayScale(canvas, { width: 0, height: 0 })).toBeGreaterThan(0)
  })

  it('fills a goal bar by its share, inside its box', () => {
    const { track, filled, label } = goalBarParts({ width: 560, height: 110 }, 62)
    expect(filled.width).toBeCloseTo(track.width * 0.62, 9)
    expect(track.y + track.height).toBeLessThan(110)
    expect(label.y + label.height).toBeLessThan(track.y)
  })

  it('makes words smaller until they fit', () => {
    expect(captionFontSize({ width: 900, height: 100 }, 10)).toBe(62)
    expect(captionFontSize({ width: 900, height: 100 }, 100)).toBeCloseTo(17.3, 1)
  })
})

describe('sharpness', () => {
  it('is source pixels over canvas pixels, the smaller of the two axes', () => {
    expect(sharpness(placement(), native)).toBe(2)
    expect(sharpness(placement({ height: 1080 }), native)).toBe(1)
    const half = { left: 480, right: 480, top: 0, bottom: 0 }
    expect(sharpness(placement({ trim: half }), native)).toBe(1)
  })
})
