import { demoShow } from '@green-mantle/demo'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  boundsOf,
  isBackdrop,
  sceneChecks,
  shareUnder,
  totalArea,
  visibleParts,
} from '../../canvas'
import {
  type CanvasName,
  canvasNames,
  type Layer,
  nativeSizeOf,
  newLayer,
  newSource,
  type Scene,
  type Show,
  type SourceKind,
  sourceKinds,
} from '../../show'
import { practicePlacements, withAddedByPractice } from './arrange'
import { begun, usualBeginnings } from './beginnings'
import { pairProposals } from './pairs'
import { runsOf } from '../../../tests/tier'

let last = 0
const makeIdentifier = (): string => `id-${(last += 1)}`

const empty: Show = { ...demoShow, sources: [], destinations: [] }
const sceneOf = (layers: Layer[]): Scene => ({
  id: 'scene',
  name: 'Scene',
  layers,
  role: null,
  verticalOf: null,
})

/** A show and a scene after adding sources of these kinds one after the other, as a user does. */
function added(
  kinds: readonly SourceKind[],
  start: Show = empty,
  moved?: (layers: Layer[]) => Layer[],
) {
  let show = start
  let layers: Layer[] = []
  for (const kind of kinds) {
    const source = newSource(show, kind, makeIdentifier)
    show = { ...show, sources: [...show.sources, source] }
    if (moved) layers = moved(layers)
    layers = withAddedByPractice(show, { layers }, newLayer(show, source, makeIdentifier))
  }
  const scene = sceneOf(layers)
  return { show: { ...show, scenes: [scene] }, scene, layers }
}

const sourceAt = ({ show, layers }: ReturnType<typeof added>, index: number) =>
  show.sources.find(({ id }) => id === layers[index]!.sourceId)!
const layerOf = (state: ReturnType<typeof added>, kind: SourceKind): Layer =>
  state.layers.find((_, index) => sourceAt(state, index).kind === kind)!

function seenShare({ show, layers }: ReturnType<typeof added>, index: number, canvas: CanvasName) {
  const sources = new Map(show.sources.map((source) => [source.id, source]))
  const { width, height } = layers[index]![canvas]
  const visible = visibleParts(layers, index, canvas, show.canvasPair[canvas], sources)
  return totalArea(visible) / (width * height)
}

describe('adding sources one after the other', () => {
  it('hides nobody: a camera, a screen, alerts and a caption, in any order', () => {
    const kinds: SourceKind[] = ['camera', 'screen', 'alerts', 'text']
    fc.assert(
      fc.property(fc.shuffledSubarray(kinds, { minLength: 4 }), (order) => {
        const state = added(order)
        for (const canvas of canvasNames)
          state.layers.forEach((_, index) => {
            const isScreen = sourceAt(state, index).kind === 'screen'
            // The camera stands in a corner of the screen.
            expect(seenShare(state, index, canvas)).toBeGreaterThan(isScreen ? 0.9 : 0.999)
          })
        // Common practice: on vertical the screen stands below, the camera above.
        const [camera, screen] = [layerOf(state, 'camera'), layerOf(state, 'screen')]
        expect(camera.vertical.y + camera.vertical.height).toBeLessThanOrEqual(screen.vertical.y)
        // On landscape the camera is in a corner, and the screen is all there.
        expect(isBackdrop(screen.landscape, state.show.canvasPair.landscape)).toBe(true)
        expect(camera.landscape.x).toBeGreaterThan(state.show.canvasPair.landscape.width / 2)
        // Alerts stand centred across.
        for (const canvas of canvasNames) {
          const { x, width } = layerOf(state, 'alerts')[canvas]
          expect(Math.abs(x + width / 2 - state.show.canvasPair[canvas].width / 2)).toBeLessThan(
            1.01,
          )
        }
      }),
    )
  })

  it('comes to the same in whatever order they came', () => {
    const orders = [
      ['camera', 'screen', 'text', 'alerts', 'goal bar', 'colour'],
      ['colour', 'goal bar', 'alerts', 'text', 'screen', 'camera'],
    ] as const
    const [one, two] = orders.map((kinds) => added(kinds))
    for (const kind of orders[0])
      for (const canvas of canvasNames)
        expect(layerOf(one!, kind)[canvas]).toEqual(layerOf(two!, kind)[canvas])
  })

  it('leaves everything on its canvas, whatever and how many', () => {
    const kinds = fc.array(fc.constantFrom(...sourceKinds), { minLength: 1, maxLength: 9 })
    fc.assert(
      fc.property(kinds, (list) => {
        const state = added(list)
        for (const canvas of canvasNames) {
          const size = state.show.canvasPair[canvas]
          for (const layer of state.layers) {
            const { x, y, width, height } = boundsOf(layer[canvas])
            expect(Math.min(x, y)).toBeGreaterThanOrEqual(-1)
            expect(x + width).toBeLessThanOrEqual(size.width + 1)
            expect(y + height).toBeLessThanOrEqual(size.height + 1)
          }
        }
      }),
      { numRuns: runsOf(60) },
    )
  })

  it('shows up to two of each kind of picture in full', () => {
    const pictures = fc
      .tuple(fc.integer({ min: 0, max: 2 }), fc.integer({ min: 0, max: 2 }))
      .filter(([cameras, screens]) => cameras + screens > 0)
    fc.assert(
      fc.property(pictures, ([cameras, screens]) => {
        const state = added([
          ...Array<SourceKind>(screens).fill('screen'),
          ...Array<SourceKind>(cameras).fill('camera'),
        ])
        for (const canvas of canvasNames)
          state.layers.forEach((_, index) =>
            expect(seenShare(state, index, canvas)).toBeGreaterThan(0.7),
          )
      }),
    )
  })

  it('keeps clear of what viewing apps cover where there is room', () => {
    const start = { ...demoShow, sources: [] }
    const state = added(['screen', 'camera', 'alerts', 'text'], start)
    const sources = new Map(state.show.sources.map((source) => [source.id, source]))
    const size = start.canvasPair.vertical
    const zones = start.destinations
      .filter(({ canvas, on }) => on && canvas === 'vertical')
      .flatMap(({ coverZones }) => coverZones)
      .map(({ x, y, width, height }) => ({
        x: x * size.width,
        y: y * size.height,
        width: width * size.width,
        height: height * size.height,
      }))
    state.layers.forEach((_, index) => {
      const covered = shareUnder(
        visibleParts(state.layers, index, 'vertical', size, sources),
        zones,
      )
      expect(covered).toBeLessThan(0.01)
    })
  })

  it('moves nothing that somebody has moved', () => {
    const byHand = (layers: Layer[]): Layer[] =>
      layers.map((layer) => ({
        ...layer,
        landscape: { ...layer.landscape, x: 13, width: 444, height: 250 },
        vertical: { ...layer.vertical, y: 77, width: 444, height: 250 },
      }))
    let before: Layer[] = []
    const state = added(['camera', 'screen', 'text', 'guest', 'alerts'], empty, (layers) => {
      before = byHand(layers)
      return before
    })
    for (const layer of before) expect(state.layers).toContainEqual(layer)
    // What came last covers none of it, and none of it the newcomer.
    const newcomer = layerOf(state, 'alerts')
    for (const canvas of canvasNames)
      expect(seenShare(state, state.layers.indexOf(newcomer), canvas)).toBe(1)
  })

  it('puts a camera into the corner of a screen that was placed by hand', () => {
    const state = added(['screen', 'camera'], empty, (layers) =>
      layers.map((layer) => ({
        ...layer,
        landscape: { ...layer.landscape, x: 10, y: 0, width: 1910, height: 1080 },
      })),
    )
    const camera = layerOf(state, 'camera').landscape
    expect(camera.width).toBeLessThan(600)
    expect(seenShare(state, 0, 'landscape')).toBe(1)
  })

  it('shows a source only where it was wanted', () => {
    const source = newSource(empty, 'camera', makeIdentifier)
    const show = { ...empty, sources: [source] }
    const layer = newLayer(show, source, makeIdentifier, ['vertical'])
    const [placed] = withAddedByPractice(show, { layers: [] }, layer)
    expect([placed!.landscape.shown, placed!.vertical.shown]).toEqual([false, true])
  })
})

describe('beginnings', () => {
  it.each(usualBeginnings)('$label is arranged so that nothing is the matter', (beginning) => {
    const { sources, layers } = begun(empty, beginning, makeIdentifier)
    expect(sources.map(({ kind }) => kind)).toEqual(beginning.kinds)
    const scene = sceneOf(layers)
    const found = sceneChecks({ ...empty, sources, scenes: [scene] }, scene)
    // A 30 fps camera in a 60 fps show is a fact of the source, not of the arrangement; what it costs to
    // fill an upright picture with a wide one is said.
    const isOfArrangement = ({ kind, canvas }: (typeof found)[number]): boolean =>
      kind !== 'slower than the show' && !(kind === 'blown up' && canvas === 'vertical')
    expect(found.filter(isOfArrangement)).toEqual([])
    for (const layer of layers)
      for (const canvas of canvasNames) expect(layer[canvas].shown).toBe(true)
  })
})

describe('a camera on the vertical canvas', () => {
  const upright = empty.canvasPair.vertical
  // Practice lets none of them lie over another.
  const coverage = ({ layers }: ReturnType<typeof added>): number =>
    layers.reduce((sum, { vertical }) => sum + vertical.width * vertical.height, 0) /
    (upright.width * upright.height)

  it.each([
    [['camera']],
    [['camera', 'guest']],
    [['screen', 'camera']],
    [['camera', 'screen']],
    [['screen', 'camera', 'guest']],
  ] as SourceKind[][][])('fills what the rest leaves: %j', (kinds) => {
    const state = added(kinds)
    expect(coverage(state)).toBeGreaterThan(0.97)
    const camera = layerOf(state, 'camera')
    const source = state.show.sources.find(({ id }) => id === camera.sourceId)!
    const { width, height } = nativeSizeOf(source)
    const { trim } = camera.vertical
    const shown = (width - trim.left - trim.right) / (height - trim.top - trim.bottom)
    // Trimmed, never stretched.
    expect(shown / (camera.vertical.width / camera.vertical.height)).toBeCloseTo(1, 1)
    expect(trim.left).toBeCloseTo(trim.right, -1)
  })

  it('is trimmed about whom it shows, and keeps what was trimmed by hand', () => {
    const camera = {
      ...newSource(empty, 'camera', makeIdentifier),
      focus: { x: 100, y: 200, width: 400, height: 600 },
    }
    const show = { ...empty, sources: [camera] }
    const placed = (layer: Layer) => practicePlacements(show, [layer], 'vertical').get(layer.id)!
    const layer = newLayer(show, camera, makeIdentifier)
    const { trim } = placed(layer)
    expect(trim.left).toBeLessThanOrEqual(100)
    expect(1920 - trim.right).toBeGreaterThanOrEqual(500)
    const byHand = { left: 11, top: 22, right: 33, bottom: 44 }
    const kept = { ...layer, vertical: { ...layer.vertical, trim: byHand } }
    expect(placed(kept).trim).toEqual(byHand)
    // What practice itself trimmed is trimmed anew when something joins it.
    const both = added(['camera'])
    const alone = layerOf(both, 'camera').vertical.trim
    expect(layerOf(added(['camera', 'screen']), 'camera').vertical.trim.left).toBeLessThan(
      alone.left,
    )
  })

  it('leaves what is behind everything to be seen', () => {
    const state = added(['colour', 'camera'])
    const { width, height } = layerOf(state, 'camera').vertical
    expect((width * height) / (upright.width * upright.height)).toBeLessThan(0.5)
  })
})

describe('arranging both canvases', () => {
  it('offers several layouts of a camera and a screen, all on the canvases', () => {
    const { show, scene } = added(['screen', 'camera', 'text'])
    const proposals = pairProposals(show, scene)
    expect(proposals.length).toBeGreaterThanOrEqual(3)
    expect(new Set(proposals.map(({ name }) => name)).size).toBe(proposals.length)
    for (const { placements } of proposals)
      for (const canvas of canvasNames) {
        const size = show.canvasPair[canvas]
        for (const { x, y, width, height } of Object.values(placements).map(
          (both) => both[canvas],
        )) {
          expect(Math.min(x, y)).toBeGreaterThanOrEqual(0)
          expect(x + width).toBeLessThanOrEqual(size.width)
          expect(y + height).toBeLessThanOrEqual(size.height)
        }
      }
  })

  it('does not hang on where anything stood', () => {
    const { show, scene } = added(['screen', 'camera'])
    const pushed = scene.layers.map((layer) => ({
      ...layer,
      landscape: { ...layer.landscape, x: 900, y: 900, width: 20, height: 20 },
    }))
    const placed = (from: Scene) => [...practicePlacements(show, from.layers, 'landscape')]
    expect(placed(sceneOf(pushed)).map(([, { x, y }]) => [x, y])).toEqual(
      placed(scene).map(([, { x, y }]) => [x, y]),
    )
  })

  it('offers nothing for an empty scene', () => {
    expect(pairProposals(empty, sceneOf([]))).toEqual([])
  })
})
