import type { Layer, Placement, Scene, Source } from '@green-mantle/core/show'

export const demoSources: Source[] = [
  {
    id: 'bench-camera',
    name: 'Bench camera',
    kind: 'camera',
    nativeWidth: 1920,
    nativeHeight: 1080,
    nativeFramesPerSecond: 30,
    appearance: { type: 'drawing', drawing: 'bench-camera' },
    focus: { x: 480, y: 120, width: 760, height: 840 },
    chromaKey: null,
  },
  {
    id: 'petal-macro',
    name: 'Petal macro',
    kind: 'camera',
    nativeWidth: 3840,
    nativeHeight: 2160,
    nativeFramesPerSecond: 30,
    appearance: { type: 'drawing', drawing: 'petal-macro' },
    focus: { x: 1330, y: 480, width: 1180, height: 1200 },
    chromaKey: null,
  },
  {
    id: 'growth-chart',
    name: 'Growth chart',
    kind: 'screen',
    nativeWidth: 2560,
    nativeHeight: 1440,
    nativeFramesPerSecond: 60,
    appearance: { type: 'drawing', drawing: 'growth-chart' },
    focus: null,
    chromaKey: null,
  },
  {
    id: 'glasshouse',
    name: 'Glasshouse night',
    kind: 'picture',
    nativeWidth: 3840,
    nativeHeight: 2160,
    nativeFramesPerSecond: null,
    appearance: { type: 'drawing', drawing: 'glasshouse-night' },
    focus: null,
    chromaKey: null,
  },
  {
    id: 'caption',
    name: 'Caption',
    kind: 'text',
    nativeWidth: 900,
    nativeHeight: 120,
    nativeFramesPerSecond: null,
    appearance: {
      type: 'text',
      text: 'A flower that opens for one night',
      colour: '#fffdf6',
      font: 'Literata',
      weight: 600,
      sizePixels: 46,
      wrap: true,
      band: true,
    },
    focus: null,
    chromaKey: null,
  },
  {
    id: 'alerts',
    name: 'Alerts',
    kind: 'alerts',
    nativeWidth: 560,
    nativeHeight: 120,
    nativeFramesPerSecond: null,
    appearance: { type: 'alerts', text: 'Ines gave to the seed fund' },
    focus: null,
    chromaKey: null,
  },
  {
    id: 'seed-fund',
    name: 'Seed fund goal',
    kind: 'goal bar',
    nativeWidth: 560,
    nativeHeight: 110,
    nativeFramesPerSecond: null,
    appearance: { type: 'goal bar', label: 'Seed fund 62 %', percent: 62 },
    focus: null,
    chromaKey: null,
  },
]

type BoxInPixels = readonly [x: number, y: number, width: number, height: number]
type PlacementSettings = Partial<Pick<Placement, 'trim' | 'locked'>>

const placement = (
  box: BoxInPixels | null,
  { trim = { left: 0, top: 0, right: 0, bottom: 0 }, locked = false }: PlacementSettings = {},
): Placement => {
  const [x, y, width, height] = box ?? [270, 780, 540, 304]
  return {
    x,
    y,
    width,
    height,
    turnDegrees: 0,
    flippedAcross: false,
    flippedDown: false,
    trim,
    shown: box !== null,
    locked,
    opacityPercent: 100,
    cornerRadius: null,
    dressed: true,
  }
}

const layer = (
  scene: string,
  sourceId: string,
  landscape: BoxInPixels | null,
  vertical: BoxInPixels | null,
  settings: { landscape?: PlacementSettings; vertical?: PlacementSettings } = {},
): Layer => ({
  id: `${scene}-${sourceId}`,
  sourceId,
  landscape: placement(landscape, settings.landscape),
  vertical: placement(vertical, settings.vertical),
})

const trimmedSides = (left: number, right = left) => ({ left, top: 0, right, bottom: 0 })
const locked = { landscape: { locked: true }, vertical: { locked: true } }

/** The demo's four scenes, front to back, as x, y, width, height in canvas pixels. */
export const demoScenes: Scene[] = [
  {
    id: 'petals-wide',
    name: 'Petals wide',
    role: null,
    verticalOf: null,
    layers: [
      layer('petals-wide', 'seed-fund', [1330, 900, 530, 110], [60, 1360, 560, 110]),
      layer('petals-wide', 'bench-camera', [60, 640, 660, 371], [0, 0, 1080, 608]),
      layer('petals-wide', 'growth-chart', [1330, 60, 530, 298], null),
      layer('petals-wide', 'petal-macro', [0, 0, 1920, 1080], [0, 608, 1080, 1312], {
        landscape: { locked: true },
        vertical: { locked: true, trim: trimmedSides(1031) },
      }),
      layer('petals-wide', 'glasshouse', [0, 0, 1920, 1080], [0, 0, 1080, 1920], {
        landscape: { locked: true },
        vertical: { locked: true, trim: trimmedSides(1312, 1313) },
      }),
    ],
  },
  {
    id: 'bench-talk',
    name: 'Bench talk',
    role: null,
    verticalOf: null,
    // Of a bench without its camera there is nothing to show but the rest.
    withoutDevice: 'hidden',
    layers: [
      layer('bench-talk', 'alerts', [680, 60, 560, 120], [260, 1180, 560, 120]),
      layer('bench-talk', 'caption', [510, 930, 900, 120], [90, 640, 900, 120]),
      layer('bench-talk', 'bench-camera', [0, 0, 1920, 1080], [0, 760, 1080, 1160], {
        vertical: { trim: trimmedSides(300, 615) },
      }),
      layer('bench-talk', 'petal-macro', null, [0, 0, 1080, 608]),
      layer('bench-talk', 'glasshouse', [0, 0, 1920, 1080], [0, 0, 1080, 1920], {
        ...locked,
        vertical: { locked: true, trim: trimmedSides(1312, 1313) },
      }),
    ],
  },
  {
    id: 'growth-chart-scene',
    name: 'Growth chart',
    role: null,
    verticalOf: null,
    layers: [
      layer('growth-chart-scene', 'bench-camera', [1340, 720, 540, 304], [0, 0, 1080, 608]),
      layer('growth-chart-scene', 'growth-chart', [0, 0, 1920, 1080], [0, 656, 1080, 608]),
      layer('growth-chart-scene', 'glasshouse', null, [0, 0, 1080, 1920], {
        vertical: { locked: true, trim: trimmedSides(1312, 1313) },
      }),
    ],
  },
  {
    id: 'starting-soon',
    name: 'Starting soon',
    role: 'starting',
    verticalOf: null,
    comesBy: { kind: 'fade', milliseconds: 1200 },
    layers: [
      layer('starting-soon', 'caption', [360, 470, 1200, 160], [60, 880, 960, 128]),
      layer('starting-soon', 'glasshouse', [0, 0, 1920, 1080], [0, 0, 1080, 1920], {
        ...locked,
        vertical: { locked: true, trim: trimmedSides(1312, 1313) },
      }),
    ],
  },
]
