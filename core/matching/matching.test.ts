import { demoShow } from '@green-mantle/demo'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  boundsOf,
  coveredLimit,
  isBackdrop,
  isFocusWhole,
  isReadable,
  shareUnder,
  sharpLimit,
  sharpness,
  visibleParts,
  zoneBox,
  zonesInUse,
} from '../canvas'
import {
  type CanvasName,
  canvasNames,
  hasOwnPixels,
  nativeSizeOf,
  newLayer,
  newSource,
  type Show,
  showSchema,
  type SourceKind,
} from '../show'
import { cropTowards } from './crops'
import { freeBoxes } from './freeSpace'
import { matchCheck } from './matchCheck'
import { matchProposals, maxProposals, type Proposal } from './proposals'
import { runsOf } from '../../tests/tier'

const from: Record<CanvasName, CanvasName> = { landscape: 'vertical', vertical: 'landscape' }

/** The show with a proposal for its first (or another) scene picked. */
function picked(
  show: Show,
  sceneIndex: number,
  canvas: CanvasName,
  { placements }: Proposal,
): Show {
  const next = structuredClone(show)
  for (const layer of next.scenes[sceneIndex]!.layers) layer[canvas] = placements[layer.id]!
  return next
}

/** What a proposal does to every source that the other canvas shows. */
function outcomes(show: Show, sceneIndex: number, canvas: CanvasName) {
  const sources = new Map(show.sources.map((source) => [source.id, source]))
  const { layers } = show.scenes[sceneIndex]!
  const size = show.canvasPair[canvas]
  const zones = zonesInUse(show.destinations, canvas).map(({ zone }) => zoneBox(zone, size))
  return layers.flatMap((layer, index) => {
    if (!layer[from[canvas]].shown) return []
    const source = sources.get(layer.sourceId)!
    const placement = layer[canvas]
    const bounds = boundsOf(placement)
    const covered = shareUnder(visibleParts(layers, index, canvas, size, sources), zones) ?? 0
    return [
      {
        name: source.name,
        shown: placement.shown,
        isOff:
          bounds.x < -1 ||
          bounds.y < -1 ||
          bounds.x + bounds.width > size.width + 1 ||
          bounds.y + bounds.height > size.height + 1,
        isFocusWhole: isFocusWhole(source.focus, nativeSizeOf(source), placement.trim),
        isReadable: isReadable(placement, source, size),
        isCovered: !isBackdrop(placement, size) && covered > coveredLimit,
        isBlownUp: hasOwnPixels(source) && sharpness(placement, nativeSizeOf(source)) < sharpLimit,
      },
    ]
  })
}

const kinds: SourceKind[] = ['camera', 'screen', 'guest', 'picture', 'text', 'goal bar', 'alerts']

/** A scene of any sources anywhere on landscape, with or without a focus, on a canvas pair of usual sizes. */
const anyShow = fc
  .record({
    items: fc.array(
      fc.record({
        kind: fc.constantFrom(...kinds),
        x: fc.integer({ min: 0, max: 1200 }),
        y: fc.integer({ min: 0, max: 700 }),
        scale: fc.double({ min: 0.2, max: 1, noNaN: true }),
        hasFocus: fc.boolean(),
        fills: fc.boolean(),
      }),
      { minLength: 1, maxLength: 6 },
    ),
    isSmall: fc.boolean(),
  })
  .map(({ items, isSmall }): Show => {
    const show = { ...structuredClone(demoShow), sounds: [] }
    if (isSmall) show.canvasPair.vertical = { width: 720, height: 1280 }
    let last = 0
    const makeIdentifier = () => `made-${(last += 1)}`
    show.sources = []
    const layers = items.map((item) => {
      const source = newSource(show, item.kind, makeIdentifier)
      if (item.hasFocus && item.kind !== 'text')
        source.focus = {
          x: source.nativeWidth / 4,
          y: source.nativeHeight / 4,
          width: source.nativeWidth / 3,
          height: source.nativeHeight / 2,
        }
      show.sources.push(source)
      const layer = newLayer(show, source, makeIdentifier)
      const width = Math.round(layer.landscape.width * item.scale)
      const height = Math.round(layer.landscape.height * item.scale)
      Object.assign(layer.landscape, { width, height, x: item.x, y: item.y })
      if (item.fills && hasOwnPixels(source))
        Object.assign(layer.landscape, { x: 0, y: 0, width: 1920, height: 1080 })
      return layer
    })
    show.scenes = [{ ...show.scenes[0]!, layers }]
    return show
  })

describe('match proposals', () => {
  it('keep every promise on the demo’s four scenes, both ways', () => {
    for (const canvas of canvasNames)
      demoShow.scenes.forEach((scene, index) => {
        const proposals = matchProposals(demoShow, scene, canvas)
        expect(proposals.length).toBeGreaterThanOrEqual(2)
        expect(proposals.length).toBeLessThanOrEqual(maxProposals)
        for (const proposal of proposals)
          for (const outcome of outcomes(picked(demoShow, index, canvas, proposal), index, canvas))
            expect(outcome, `${scene.name} on ${canvas}: ${proposal.name}`).toEqual({
              name: outcome.name,
              shown: true,
              isOff: false,
              isFocusWhole: true,
              isReadable: true,
              isCovered: false,
              isBlownUp: false,
            })
      })
  })

  it('show everything, keep every focus whole and the order as it is, whatever the scene', () => {
    fc.assert(
      fc.property(anyShow, (show) => {
        const proposals = matchProposals(show, show.scenes[0]!, 'vertical')
        expect(proposals.length).toBeGreaterThan(0)
        for (const proposal of proposals) {
          const next = picked(show, 0, 'vertical', proposal)
          expect(showSchema.safeParse(next).success).toBe(true)
          expect(next.scenes[0]!.layers.map(({ id }) => id)).toEqual(
            show.scenes[0]!.layers.map(({ id }) => id),
          )
          for (const outcome of outcomes(next, 0, 'vertical'))
            expect(outcome).toMatchObject({ shown: true, isFocusWhole: true, isOff: false })
          expect(proposal.score).toBeGreaterThanOrEqual(0)
          expect(proposal.score).toBeLessThanOrEqual(100)
        }
      }),
      { numRuns: runsOf(25) },
    )
  })

  it('break no promise in a second choice that the first keeps', () => {
    const count = (show: Show, key: 'isBlownUp' | 'isCovered' | 'isReadable') =>
      outcomes(show, 0, 'vertical').filter((outcome) => outcome[key] === (key !== 'isReadable'))
        .length
    fc.assert(
      fc.property(anyShow, (show) => {
        const [best, ...rest] = matchProposals(show, show.scenes[0]!, 'vertical').map((proposal) =>
          picked(show, 0, 'vertical', proposal),
        )
        for (const other of rest)
          for (const key of ['isReadable', 'isCovered', 'isBlownUp'] as const)
            expect(count(other, key)).toBe(count(best!, key))
      }),
      { numRuns: runsOf(20) },
    )
  })

  it('stand the camera above the screen on vertical', () => {
    const scene = demoShow.scenes[2]!
    const [best] = matchProposals(demoShow, scene, 'vertical')
    const at = (source: string) => best!.placements[`growth-chart-scene-${source}`]!
    expect(at('bench-camera').y + at('bench-camera').height).toBeLessThanOrEqual(
      at('growth-chart').y,
    )
  })

  it('let a backdrop of the other canvas be, which nothing shown there stands before', () => {
    const [best] = matchProposals(demoShow, demoShow.scenes[2]!, 'vertical')
    expect(best!.placements['growth-chart-scene-glasshouse']).toEqual(
      demoShow.scenes[2]!.layers[2]!.vertical,
    )
  })

  it('are none for an empty canvas', () => {
    const scene = { ...demoShow.scenes[0]!, layers: [] }
    expect(matchProposals(demoShow, scene, 'vertical')).toEqual([])
  })

  it('are the same however often they are asked for', () => {
    const ask = () => matchProposals(demoShow, demoShow.scenes[0]!, 'vertical')
    expect(JSON.stringify(ask())).toBe(JSON.stringify(ask()))
  })
})

describe('the parts of matching', () => {
  it('crops towards a shape without cutting what has to stay whole', () => {
    const positive = (most: number) => fc.integer({ min: 1, max: most })
    fc.assert(
      fc.property(
        positive(4000),
        positive(4000),
        fc.double({ min: 0.2, max: 5, noNaN: true }),
        fc.tuple(
          fc.double({ min: 0, max: 1, noNaN: true }),
          fc.double({ min: 0, max: 1, noNaN: true }),
        ),
        (width, height, aspect, [start, length]) => {
          const region = { x: 10, y: 20, width, height }
          const whole = {
            x: 10 + start * width * 0.5,
            y: 20 + start * height * 0.5,
            width: length * width * 0.5,
            height: length * height * 0.5,
          }
          const crop = cropTowards(region, aspect, whole)
          const slack = 1e-6
          expect(crop.x).toBeGreaterThanOrEqual(region.x - slack)
          expect(crop.x + crop.width).toBeLessThanOrEqual(region.x + region.width + slack)
          expect(crop.x).toBeLessThanOrEqual(whole.x + slack)
          expect(crop.x + crop.width).toBeGreaterThanOrEqual(whole.x + whole.width - slack)
          expect(crop.y).toBeLessThanOrEqual(whole.y + slack)
          expect(crop.y + crop.height).toBeGreaterThanOrEqual(whole.y + whole.height - slack)
        },
      ),
    )
  })

  it('finds free boxes that no zone reaches into and that cannot grow', () => {
    const side = fc.integer({ min: 0, max: 90 })
    const zone = fc.record({
      x: side,
      y: side,
      width: fc.integer({ min: 5, max: 60 }),
      height: fc.integer({ min: 5, max: 60 }),
    })
    const canvas = { width: 100, height: 100 }
    fc.assert(
      fc.property(fc.array(zone, { maxLength: 5 }), (zones) => {
        const meets = (box: { x: number; y: number; width: number; height: number }) =>
          zones.some(
            (z) =>
              box.x < z.x + z.width &&
              z.x < box.x + box.width &&
              box.y < z.y + z.height &&
              z.y < box.y + box.height,
          )
        for (const box of freeBoxes(canvas, zones)) {
          expect(meets(box)).toBe(false)
          const grown = [
            { ...box, width: box.width + 1 },
            { ...box, height: box.height + 1 },
            { ...box, x: box.x - 1, width: box.width + 1 },
            { ...box, y: box.y - 1, height: box.height + 1 },
          ]
          for (const larger of grown) {
            const isOnCanvas =
              larger.x >= 0 &&
              larger.y >= 0 &&
              larger.x + larger.width <= 100 &&
              larger.y + larger.height <= 100
            expect(isOnCanvas && !meets(larger)).toBe(false)
          }
        }
      }),
    )
  })
})

describe('the match check', () => {
  const kindsIn = (show: Show, index = 0) =>
    matchCheck(show, show.scenes[index]!).map(({ kind }) => kind)
  const edited = (change: (show: Show) => void): Show => {
    const copy = structuredClone(demoShow)
    change(copy)
    return copy
  }

  it('says what differs in the demo', () => {
    expect(matchCheck(demoShow, demoShow.scenes[0]!).map(({ words }) => words)).toEqual([
      'Seed fund goal is too small to read on vertical only',
      'Growth chart is on landscape only',
    ])
  })

  it.each<[string, (show: Show) => void]>([
    ['goal hidden', (show) => (show.scenes[0]!.layers[0]!.vertical.shown = false)],
    ['focus cut on one', (show) => (show.scenes[0]!.layers[1]!.vertical.trim.left = 600)],
    [
      'captions differ',
      (show) => {
        const caption = show.sources.find(({ id }) => id === 'caption')!
        const other = structuredClone(caption)
        Object.assign(other, { id: 'other' })
        if (other.appearance.type === 'text') other.appearance.text = 'Something else'
        show.sources.push(other)
        const layer = structuredClone(show.scenes[3]!.layers[0]!)
        const hidden = structuredClone(layer)
        Object.assign(hidden, { id: 'other', sourceId: 'other' })
        layer.vertical.shown = false
        hidden.landscape.shown = false
        show.scenes[0]!.layers.push(layer, hidden)
      },
    ],
  ])('finds a %s', (kind, change) => {
    expect(kindsIn(demoShow)).not.toContain(kind)
    expect(kindsIn(edited(change))).toContain(kind)
  })

  it('finds nothing where the vertical is another scene’s', () => {
    expect(kindsIn(edited((show) => (show.scenes[0]!.verticalOf = 'bench-talk')))).toEqual([])
  })
})
