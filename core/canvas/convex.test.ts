import fc from 'fast-check'
import { mat2d, vec2 } from 'gl-matrix'
import * as clipping from 'polyclip-ts'
import { describe, expect, it } from 'vitest'
import {
  areaOf,
  differenceOfAll,
  intersection,
  isWithin,
  overlapsAny,
  type Polygon,
  totalArea,
} from './convex'
import { shareUnder, visibleParts } from './covered'
import { cornersOf } from './geometry'
import { anyPlacement, cameras, layerOf, nativeSize, placed } from './testPlacements'
import { canvasToSource, sourceToCanvas, usedPart } from './trim'
import { runsOf } from '../../tests/tier'

/** The way from a source's pixels to the canvas as one matrix of a general library (gl-matrix). */
function matrixOf(placement: ReturnType<typeof layerOf>['landscape']): mat2d {
  const used = usedPart(nativeSize, placement.trim)
  const matrix = mat2d.create()
  mat2d.translate(matrix, matrix, [
    placement.x + placement.width / 2,
    placement.y + placement.height / 2,
  ])
  mat2d.rotate(matrix, matrix, (placement.turnDegrees * Math.PI) / 180)
  mat2d.scale(matrix, matrix, [placement.flippedAcross ? -1 : 1, placement.flippedDown ? -1 : 1])
  mat2d.scale(matrix, matrix, [placement.width / used.width, placement.height / used.height])
  return mat2d.translate(matrix, matrix, [-used.x - used.width / 2, -used.y - used.height / 2])
}

const pixel = fc.record({
  x: fc.integer({ min: 0, max: 1920 }),
  y: fc.integer({ min: 0, max: 1080 }),
})

describe('geometry against gl-matrix', () => {
  it('puts every pixel of a turned, flipped, trimmed source where the matrix does', () => {
    fc.assert(
      fc.property(anyPlacement, pixel, (placement, { x, y }) => {
        const [wantedX, wantedY] = vec2.transformMat2d(vec2.create(), [x, y], matrixOf(placement))
        const point = sourceToCanvas(placement, nativeSize, { x, y })
        // gl-matrix computes in single precision.
        expect(Math.abs(point.x - wantedX!)).toBeLessThan(0.5)
        expect(Math.abs(point.y - wantedY!)).toBeLessThan(0.5)
      }),
    )
  })

  it('finds the pixel under a point again', () => {
    fc.assert(
      fc.property(anyPlacement, pixel, (placement, from) => {
        const back = canvasToSource(
          placement,
          nativeSize,
          sourceToCanvas(placement, nativeSize, from),
        )
        expect(back.x).toBeCloseTo(from.x, 5)
        expect(back.y).toBeCloseTo(from.y, 5)
      }),
    )
  })

  it('hits what the inverse matrix says lies within the used part', () => {
    const point = fc.record({
      x: fc.integer({ min: -3000, max: 3000 }),
      y: fc.integer({ min: -3000, max: 3000 }),
    })
    fc.assert(
      fc.property(anyPlacement, point, (placement, { x, y }) => {
        const inverse = mat2d.invert(mat2d.create(), matrixOf(placement))!
        const [sx, sy] = vec2.transformMat2d(vec2.create(), [x, y], inverse)
        const used = usedPart(nativeSize, placement.trim)
        const depth = Math.min(
          sx! - used.x,
          sy! - used.y,
          used.x + used.width - sx!,
          used.y + used.height - sy!,
        )
        // On the very edge single precision may fall either way.
        fc.pre(Math.abs(depth) > 0.5)
        expect(isWithin(cornersOf(placement), { x, y })).toBe(depth > 0)
      }),
    )
  })
})

type Pair = [number, number]
const ring = (polygon: Polygon): Pair[][] => [polygon.map(({ x, y }): Pair => [x, y])]

/** Shoelace over the rings that polyclip-ts gives; inner rings run the other way. */
function areaThere(multi: ReturnType<typeof clipping.union>): number {
  const ofRing = (points: Pair[]): number =>
    points.reduce((sum, [x, y], index) => {
      const [nextX, nextY] = points[(index + 1) % points.length]!
      return sum + x * nextY - nextX * y
    }, 0) / 2
  return multi.reduce(
    (sum, [outer, ...holes]) =>
      sum +
      Math.abs(ofRing(outer!)) -
      holes.reduce((inner, hole) => inner + Math.abs(ofRing(hole)), 0),
    0,
  )
}

/**
 * The other library gives up on some nearly touching edges ("Unable to complete output ring"). Such a
 * case cannot be compared; any other error of it, and any of ours, still counts.
 */
function asThere<Result>(compute: () => Result): Result {
  try {
    return compute()
  } catch (error) {
    fc.pre(!/Unable to complete output ring/.test((error as Error).message))
    throw error
  }
}

const several = fc.array(anyPlacement, { minLength: 1, maxLength: 6 })
const canvas = { width: 1920, height: 1080 }
const canvasCorners: Polygon = [
  { x: 0, y: 0 },
  { x: 1920, y: 0 },
  { x: 1920, y: 1080 },
  { x: 0, y: 1080 },
]
const canvasRing = ring(canvasCorners)
/** Within 0.1 % of the larger figure, or a hundredth of a squared pixel. */
const close = (a: number, b: number): boolean =>
  Math.abs(a - b) <= Math.max(0.01, 0.001 * Math.max(a, b))

/**
 * What is left of a polygon by counting points of a fine grid. Rarely the other library loses a corner
 * without saying so; then the points say which of the two is right.
 */
function countedArea(polygon: Polygon, taken: readonly Polygon[]): number {
  const side = 1000
  const [xs, ys] = [polygon.map(({ x }) => x), polygon.map(({ y }) => y)]
  const [left, top] = [Math.min(...xs), Math.min(...ys)]
  const [width, height] = [Math.max(...xs) - left, Math.max(...ys) - top]
  let count = 0
  for (let across = 0; across < side; across += 1)
    for (let down = 0; down < side; down += 1) {
      const point = {
        x: left + ((across + 0.5) / side) * width,
        y: top + ((down + 0.5) / side) * height,
      }
      if (isWithin(polygon, point) && !taken.some((other) => isWithin(other, point))) count += 1
    }
  return (count / side ** 2) * width * height
}

/** Whether two areas agree; where they do not, ours has to be what counting points says. */
function agrees(here: number, there: number, polygon: Polygon, taken: readonly Polygon[]): boolean {
  if (close(here, there)) return true
  const counted = countedArea(polygon, taken)
  expect(Math.abs(here - counted)).toBeLessThan(0.001 * areaOf(polygon))
  expect(Math.abs(here - counted)).toBeLessThan(Math.abs(there - counted))
  return false
}

/** Placements of which the other library once lost a corner without a word. */
const lostCorner = [
  placed({ x: -1313, y: -1353, width: 3235, height: 2452, turnDegrees: -286 }),
  placed({ x: 1650, y: -221, width: 217, height: 1940, turnDegrees: 135 }),
  placed({ x: 0, y: 0, width: 1726, height: 1887, turnDegrees: 42 }),
]

describe('areas against polyclip-ts', () => {
  it('shares the same area', () => {
    fc.assert(
      fc.property(anyPlacement, anyPlacement, (a, b) => {
        const [one, other] = [cornersOf(a), cornersOf(b)]
        const there = asThere(() => areaThere(clipping.intersection(ring(one), ring(other))))
        expect(close(areaOf(intersection(one, other)), there)).toBe(true)
      }),
    )
  })

  it('leaves the same area when overlapping polygons are taken away', () => {
    fc.assert(
      fc.property(anyPlacement, several, (first, others) => {
        const rings = others.map((other) => ring(cornersOf(other)))
        const there = asThere(() =>
          areaThere(clipping.difference(ring(cornersOf(first)), ...rings)),
        )
        const here = totalArea(differenceOfAll([cornersOf(first)], others.map(cornersOf)))
        agrees(here, there, cornersOf(first), others.map(cornersOf))
      }),
      { numRuns: runsOf(300) },
    )
  })

  it('covers the same share of what is visible', () => {
    const zone = fc.record({
      x: fc.integer({ min: 0, max: 1500 }),
      y: fc.integer({ min: 0, max: 800 }),
      width: fc.integer({ min: 1, max: 1000 }),
      height: fc.integer({ min: 1, max: 800 }),
    })
    fc.assert(
      fc.property(several, fc.array(zone, { minLength: 1, maxLength: 4 }), (placements, zones) => {
        const layers = placements.map((placement, index) => layerOf(`l${index}`, placement))
        const sources = cameras(...layers.map(({ id }) => id))
        const last = layers.length - 1
        const visible = asThere(() =>
          clipping.intersection(ring(cornersOf(placements[last]!)), canvasRing),
        )
        const inFront = placements.slice(0, last).map((placement) => ring(cornersOf(placement)))
        const seen =
          inFront.length > 0 && visible.length > 0
            ? asThere(() => clipping.difference(visible, ...inFront))
            : visible
        const area = areaThere(seen)
        // Slivers of rounding make no share.
        fc.pre(area === 0 || area > 10)
        const zoneRings = zones.map(({ x, y, width, height }) =>
          ring([
            { x, y },
            { x: x + width, y },
            { x: x + width, y: y + height },
            { x, y: y + height },
          ]),
        )
        const share = shareUnder(visibleParts(layers, last, 'landscape', canvas, sources), zones)
        const here = totalArea(visibleParts(layers, last, 'landscape', canvas, sources))
        const onCanvas = intersection(cornersOf(placements[last]!), canvasCorners)
        const before = placements.slice(0, last).map(cornersOf)
        if (!agrees(here, area, onCanvas, before) || area === 0) return
        const covered = asThere(() =>
          areaThere(
            clipping.intersection(seen, clipping.union(zoneRings[0]!, ...zoneRings.slice(1))),
          ),
        )
        expect(share).toBeCloseTo(covered / area, 3)
      }),
      {
        numRuns: runsOf(300),
        examples: [[lostCorner, [{ x: 0, y: 0, width: 1, height: 1 }]]],
      },
    )
  })
})

describe('whether pieces share area with a polygon', () => {
  it('is whether something of them is lost without it', () => {
    fc.assert(
      fc.property(several, anyPlacement, (placements, placement) => {
        const [first, ...others] = placements.map(cornersOf)
        const pieces = differenceOfAll([first!], others)
        const other = cornersOf(placement)
        const lost = totalArea(pieces) - totalArea(differenceOfAll(pieces, [other]))
        // What is left of large areas is rounded by some of a thousandth of a squared pixel.
        fc.pre(lost < 1e-6 || lost > 1e-2)
        expect(overlapsAny(pieces, other)).toBe(lost > 1e-2)
      }),
    )
  })
})

describe('what hides what is behind', () => {
  const front = { x: 0, y: 0, width: 1920, height: 1080 }
  const back = { x: 100, y: 100, width: 200, height: 100 }
  const visible = (changes: object, kind: 'camera' | 'text', isKeyed = false) => {
    const layers = [layerOf('front', { ...front, ...changes }), layerOf('back', back)]
    const chromaKey = isKeyed
      ? { on: true, colour: '#00ff00', similarityPercent: 1, smoothnessPercent: 1, spillPercent: 1 }
      : null
    const sources = new Map([
      ['front', { kind, chromaKey }],
      ['back', { kind: 'camera' as const, chromaKey: null }],
    ])
    return totalArea(visibleParts(layers, 1, 'landscape', canvas, sources))
  }
  it.each([
    ['a camera does', {}, 'camera', false, 0],
    ['a hidden one does not', { shown: false }, 'camera', false, 20_000],
    ['a translucent one does not', { opacityPercent: 60 }, 'camera', false, 20_000],
    ['a keyed one does not', {}, 'camera', true, 20_000],
    ['words do not', {}, 'text', false, 20_000],
  ] as const)('%s', (_name, changes, kind, isKeyed, area) => {
    expect(visible(changes, kind, isKeyed)).toBeCloseTo(area, 6)
  })

  it('has no share where nothing is visible', () => {
    const layers = [layerOf('front', front), layerOf('back', back)]
    expect(
      shareUnder(visibleParts(layers, 1, 'landscape', canvas, cameras('front', 'back')), [front]),
    ).toBeNull()
  })
})
