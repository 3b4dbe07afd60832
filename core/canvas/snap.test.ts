import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { safeAreaBoxes } from './safeAreas'
import { distancesAround, handleNamed, snappedBox, snappedHandle, snapLines } from './snap'
import { anyPlacement } from './testPlacements'

const canvas = { width: 1080, height: 1920 }

describe('snapping', () => {
  const lines = snapLines(canvas, [{ x: 100, y: 200, width: 300, height: 100, name: 'Camera' }])

  it.each([
    ['an edge', { x: 3, y: 900, width: 29, height: 50 }, { x: 0 }],
    ['the centre', { x: 517, y: 800, width: 50, height: 50 }, { x: 515 }],
    ['a third', { x: 357, y: 1000, width: 50, height: 50 }, { x: 360 }],
    ['the graphics safe area', { x: 57, y: 1000, width: 10, height: 10 }, { x: 54 }],
    ['another placement', { x: 403, y: 700, width: 80, height: 50 }, { x: 400 }],
    ['the upper edge of another', { x: 700, y: 203, width: 33, height: 37 }, { y: 200 }],
  ])('holds to %s', (_name, box, wanted) => {
    expect(snappedBox(box, lines, 8)).toMatchObject(wanted)
  })

  it('never moves by more than the tolerance, and names the line that holds', () => {
    fc.assert(
      fc.property(anyPlacement, fc.integer({ min: 0, max: 30 }), (placement, tolerance) => {
        const { x, y, guides } = snappedBox(placement, lines, tolerance)
        expect(Math.abs(x - placement.x)).toBeLessThanOrEqual(tolerance)
        expect(Math.abs(y - placement.y)).toBeLessThanOrEqual(tolerance)
        for (const { axis, at } of guides) {
          const [start, length] = axis === 'across' ? [x, placement.width] : [y, placement.height]
          const gaps = [0, 0.5, 1].map((share) => Math.abs(start + share * length - at))
          expect(Math.min(...gaps)).toBeLessThan(1e-6)
        }
      }),
    )
  })

  it('holds a corner to one line and keeps the proportions', () => {
    const box = { x: 100, y: 200, width: 320, height: 180 }
    const held = snappedHandle(
      box,
      handleNamed('bottom-right'),
      { x: 536, y: 450 },
      snapLines(canvas, []),
      8,
      true,
    )
    // The centre of the canvas, 440 px from the opposite corner, at 16:9.
    expect(held).toMatchObject({ x: 540, y: 200 + (440 * 180) / 320 })
    expect(held.guides).toHaveLength(1)
  })

  it.each(['top-left', 'top-right', 'bottom-left', 'bottom-right'])(
    'never bends the proportions at the %s corner',
    (name) => {
      const handle = handleNamed(name)
      fc.assert(
        fc.property(
          fc.integer({ min: 20, max: 900 }),
          fc.integer({ min: 20, max: 900 }),
          fc.integer({ min: 30, max: 400 }),
          (width, height, reach) => {
            const box = { x: 90, y: 310, width, height }
            const opposite = {
              x: handle.across === 'left' ? box.x + width : box.x,
              y: handle.down === 'top' ? box.y + height : box.y,
            }
            const sign = { x: handle.across === 'left' ? -1 : 1, y: handle.down === 'top' ? -1 : 1 }
            const point = {
              x: opposite.x + sign.x * reach,
              y: opposite.y + (sign.y * reach * height) / width,
            }
            const { x, y, guides } = snappedHandle(
              box,
              handle,
              point,
              snapLines(canvas, []),
              12,
              true,
            )
            if (guides.length === 0) return
            const [across, down] = [Math.abs(x - opposite.x), Math.abs(y - opposite.y)]
            expect(down * width).toBeCloseTo(across * height, 3)
          },
        ),
      )
    },
  )

  it('holds an edge to lines of its own axis only', () => {
    const box = { x: 100, y: 200, width: 320, height: 180 }
    const held = snappedHandle(
      box,
      handleNamed('middle-right'),
      { x: 536, y: 958 },
      snapLines(canvas, []),
      8,
      true,
    )
    expect(held).toMatchObject({ x: 540, y: 958 })
  })

  it('measures to the nearest neighbour or the edge', () => {
    const box = { x: 500, y: 220, width: 100, height: 50 }
    const other = { x: 100, y: 200, width: 300, height: 100 }
    expect(distancesAround(box, canvas, [other]).map(({ axis, pixels }) => [axis, pixels])).toEqual(
      [
        ['across', 100],
        ['across', 480],
        ['down', 220],
        ['down', 1650],
      ],
    )
  })

  it('knows the safe areas of EBU R 95 (values from memory): 3.5 % and 5 % in', () => {
    const [action, graphics] = safeAreaBoxes({ width: 1920, height: 1080 })
    expect(action!.x).toBeCloseTo(67.2, 9)
    expect(action!.y).toBeCloseTo(37.8, 9)
    expect(graphics!.width).toBeCloseTo(1728, 9)
    expect(graphics!.height).toBeCloseTo(972, 9)
  })
})
