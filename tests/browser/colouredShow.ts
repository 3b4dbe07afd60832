import type { CanvasName, Scene, Show, Source } from '@green-mantle/core/show'
import { demoShow } from '@green-mantle/demo'
import type { Page } from '@playwright/test'
import { smallShow } from './smallShow'

export const colours = { red: '#c02020', blue: '#2040c0', grey: '#808080' } as const
export type Colour = keyof typeof colours

/** Small enough for a quarter of a core. */
const canvasPair = {
  framesPerSecond: 24,
  landscape: { width: 320, height: 180 },
  vertical: { width: 180, height: 320 },
} as const
const plain = demoShow.scenes[0]!.layers[0]!
/** A source of one colour that fills both canvases, and a scene of it alone. */
const sourceOf = (colour: Colour): Source => ({
  ...demoShow.sources[0]!,
  ...{ id: colour, name: colour, kind: 'colour', chromaKey: null, focus: null },
  appearance: { type: 'colour', colour: colours[colour] },
})
export function sceneOf(colour: Colour, role: Scene['role'] = null): Scene {
  const filling = (canvas: CanvasName) => ({
    ...plain[canvas],
    ...{ x: 0, y: 0, ...canvasPair[canvas], turnDegrees: 0, shown: true, dressed: false },
    ...{ trim: { left: 0, top: 0, right: 0, bottom: 0 }, opacityPercent: 100, cornerRadius: 0 },
  })
  return {
    ...{ id: `scene-${colour}`, name: `All ${colour}`, role, verticalOf: null },
    layers: [
      {
        ...{ id: `layer-${colour}`, sourceId: colour },
        landscape: filling('landscape'),
        vertical: filling('vertical'),
      },
    ],
  }
}
const [start] = new Date(Date.now() + 600_000).toISOString().split('.')
const recording = demoShow.recordings[0]!
/** Three scenes of one colour each, the last of them for standing by; both canvases are recorded. */
export const coloured: Show = {
  ...smallShow,
  canvasPair,
  ...{ title: 'Colours', startsAt: (start as string).slice(0, 16), timeZone: 'UTC' },
  sources: (Object.keys(colours) as Colour[]).map(sourceOf),
  scenes: [sceneOf('red'), sceneOf('blue'), sceneOf('grey', 'starting')],
  // The browser's own made microphone, which beeps.
  sounds: [
    {
      ...demoShow.sounds[0]!,
      ...{ input: 'Fake Audio Input 1', sourceId: null, muted: false, levelDecibels: 0 },
      ...{ mixes: { live: true, archive: true }, delayMilliseconds: 0, noiseSuppression: false },
    },
  ],
  destinations: smallShow.destinations.map((each) => ({
    ...each,
    // The window itself encodes what can be lowered, and the encoder program the rest.
    sending: {
      ...each.sending,
      whenBehind: each.canvas === 'landscape' ? ('lower' as const) : ('drop' as const),
    },
    renditions: each.renditions.map((rendition) => ({
      ...rendition,
      ...{ ...canvasPair[each.canvas], framesPerSecond: 24, videoBitrateKbps: 300 },
    })),
    rules: { ...each.rules, key: { ...each.rules.key, life: 'lasting' as const } },
  })),
  transition: { kind: 'cut', milliseconds: 0 },
  recordings: (['landscape', 'vertical'] as const).map((canvas) => ({
    ...recording,
    ...{ id: `kept-${canvas}`, name: `Kept ${canvas}`, canvas, on: true },
    plan: { ...recording.plan, leftOut: false },
    rendition: {
      ...smallShow.destinations.find((each) => each.canvas === canvas)!.renditions[0]!,
      ...{ ...canvasPair[canvas], framesPerSecond: 24 },
      ...{ id: `kept-${canvas}-1`, videoBitrateKbps: 400 },
    },
  })),
}

/** What the on-air window says of the frames of its first canvas. */
export const framesOf = (page: Page) => page.getByText(/\d+ of \d+ · \d+ late/).first()

/** The colour in the middle of each canvas, as it goes out. */
export const middleOf = (page: Page): Promise<Colour[]> =>
  page.getByRole('img', { name: /as it goes out/ }).evaluateAll((elements) =>
    elements.map((element) => {
      const surface = document.createElement('canvas')
      surface.width = surface.height = 1
      const context = surface.getContext('2d')!
      context.drawImage(element as HTMLCanvasElement, 0, 0, 1, 1)
      const [red = 0, , blue = 0] = context.getImageData(0, 0, 1, 1).data
      return red > blue + 60 ? 'red' : blue > red + 60 ? 'blue' : 'grey'
    }),
  )
