import fc from 'fast-check'
import type { Layer, Placement, Size, Source } from '../show'

/** Placements for the tests of this folder. */
export const nativeSize: Size = { width: 1920, height: 1080 }

export const placed = (changes: Partial<Placement> = {}): Placement => ({
  x: 60,
  y: 640,
  width: 960,
  height: 540,
  turnDegrees: 0,
  flippedAcross: false,
  flippedDown: false,
  trim: { left: 0, top: 0, right: 0, bottom: 0 },
  shown: true,
  locked: false,
  opacityPercent: 100,
  cornerRadius: null,
  dressed: true,
  ...changes,
})

export const layerOf = (id: string, changes: Partial<Placement>): Layer => ({
  id,
  sourceId: id,
  landscape: placed(changes),
  vertical: placed(changes),
})

export const cameras = (...ids: string[]): Map<string, Pick<Source, 'kind' | 'chromaKey'>> =>
  new Map(ids.map((id) => [id, { kind: 'camera', chromaKey: null }]))

const pixel = (most: number) => fc.integer({ min: 0, max: most })

export const anyTrim = fc.record({
  left: pixel(900),
  right: pixel(900),
  top: pixel(500),
  bottom: pixel(500),
})

/** Any placement that a 1920×1080 source can have. */
export const anyPlacement = fc
  .record({
    x: fc.integer({ min: -2000, max: 2000 }),
    y: fc.integer({ min: -2000, max: 2000 }),
    width: fc.integer({ min: 20, max: 4000 }),
    height: fc.integer({ min: 20, max: 4000 }),
    turnDegrees: fc.integer({ min: -360, max: 360 }),
    flippedAcross: fc.boolean(),
    flippedDown: fc.boolean(),
    trim: anyTrim,
  })
  .map((changes) => placed(changes))
