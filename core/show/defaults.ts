import type { CanvasName, CanvasPair, Size } from './canvasPair'
import type { Destination, Rules } from './destination'
import { type Dressing, ourDressings } from './dressing'
import type { MakeIdentifier } from './identifier'
import { headroomLimitsPercent } from './line'
import type { Rendition } from './rendition'
import type { Placement, Scene, Transition } from './scene'
import type { Show } from './show'
import type { Source, SourceKind } from './source'

/** Common practice, no published source: a keyframe every 2 s, 2 B-frames, 160 kb/s of audio, 3500 kb/s for 720p30. */
export function newRendition(id: string, canvas: CanvasName): Rendition {
  const size = canvas === 'landscape' ? { width: 1280, height: 720 } : { width: 720, height: 1280 }
  return {
    id,
    ...size,
    framesPerSecond: 30,
    codec: 'h264',
    effort: 'balanced',
    videoBitrateKbps: 3500,
    keyframeIntervalSeconds: 2,
    bFrames: 2,
    audioBitrateKbps: 160,
    audioSampleRateHz: 48_000,
  }
}

/** Wide rules to begin with, for a person to narrow. */
export function newRules(canvas: CanvasName): Rules {
  const size =
    canvas === 'landscape' ? { width: 1920, height: 1080 } : { width: 1080, height: 1920 }
  return {
    codecs: ['h264'],
    sizes: { type: 'up to', ...size },
    framesPerSecond: { type: 'up to', most: 60 },
    leastVideoBitrateKbps: null,
    mostVideoBitrateKbps: 6000,
    highestLevel: { h264: null, hevc: null, av1: null },
    longestKeyframeIntervalSeconds: 4,
    mostBFrames: 2,
    mostAudioBitrateKbps: 320,
    audioSampleRatesHz: [44_100, 48_000],
    mostRenditions: 1,
    start: 'live when it arrives',
  }
}

export function newDestination(
  makeIdentifier: MakeIdentifier,
  name: string,
  canvas: CanvasName,
): Destination {
  return {
    id: makeIdentifier(),
    name,
    note: '',
    canvas,
    connection: 'address and key',
    protocol: 'rtmps',
    on: true,
    viewers: [canvas === 'landscape' ? 'desk' : 'phone'],
    coverZones: [],
    rules: newRules(canvas),
    renditions: [newRendition(makeIdentifier(), canvas)],
  }
}

/** The source drawn at its own size in the middle of a canvas, made smaller where it does not fit. */
export function newPlacement(native: Size, canvas: Size, shown: boolean): Placement {
  const scale = Math.min(1, canvas.width / native.width, canvas.height / native.height)
  const width = Math.max(1, Math.round(native.width * scale))
  const height = Math.max(1, Math.round(native.height * scale))
  return {
    x: Math.round((canvas.width - width) / 2),
    y: Math.round((canvas.height - height) / 2),
    width,
    height,
    turnDegrees: 0,
    flippedAcross: false,
    flippedDown: false,
    trim: { left: 0, top: 0, right: 0, bottom: 0 },
    shown,
    locked: false,
    opacityPercent: 100,
    cornerRadius: null,
    dressed: true,
  }
}

type SourceStart = Pick<
  Source,
  'nativeWidth' | 'nativeHeight' | 'nativeFramesPerSecond' | 'appearance'
>
const drawn = (
  drawing: string,
  nativeWidth: number,
  nativeHeight: number,
  nativeFramesPerSecond: number | null,
): SourceStart => ({
  nativeWidth,
  nativeHeight,
  nativeFramesPerSecond,
  appearance: { type: 'drawing', drawing },
})
const made = (
  nativeWidth: number,
  nativeHeight: number,
  appearance: Source['appearance'],
): SourceStart => ({ nativeWidth, nativeHeight, nativeFramesPerSecond: null, appearance })

/** What a new source of each kind is like. The drawings are stand-ins that ship with the application. */
export const newSourceStarts: Record<SourceKind, SourceStart> = {
  camera: drawn('stand-in-camera', 1920, 1080, 30),
  screen: drawn('stand-in-screen', 1920, 1080, 60),
  window: drawn('stand-in-window', 1600, 1000, 30),
  guest: drawn('stand-in-guest', 1280, 720, 30),
  'web page': drawn('stand-in-web-page', 1280, 800, 60),
  picture: drawn('glasshouse-night', 3840, 2160, null),
  'media file': drawn('stand-in-media', 1920, 1080, 25),
  text: made(900, 120, {
    type: 'text',
    text: 'A caption',
    colour: '#fffdf6',
    font: 'Literata',
    weight: 600,
    sizePixels: 56,
    wrap: true,
    band: true,
  }),
  colour: made(1920, 1080, { type: 'colour', colour: '#2f5d3a' }),
  alerts: made(560, 120, { type: 'alerts', text: 'A new follower' }),
  'goal bar': made(560, 110, { type: 'goal bar', label: 'Goal', percent: 40 }),
}

export const newScene = (id: string, name: string): Scene => ({
  id,
  name,
  layers: [],
  role: null,
  verticalOf: null,
})

export const usualTransition: Transition = { kind: 'fade', milliseconds: 300 }
export const usualDressing: Dressing = ourDressings[0]

const usualCanvasPair = (): CanvasPair => ({
  framesPerSecond: 60,
  landscape: { width: 1920, height: 1080 },
  vertical: { width: 1080, height: 1920 },
})

/** An empty show: one scene with nothing in it, no measurement, no destination. */
export function newShow(
  makeIdentifier: MakeIdentifier,
  when: { startsAt: string; timeZone: string },
): Show {
  return {
    title: 'New show',
    ...when,
    durationMinutes: 120,
    pictureKind: 'talking',
    canvasPair: usualCanvasPair(),
    sources: [],
    scenes: [newScene(makeIdentifier(), 'Scene 1')],
    transition: usualTransition,
    dressing: usualDressing,
    line: {
      name: 'Line',
      headroomPercent: headroomLimitsPercent.usual,
      samples: [],
      otherTraffic: [],
    },
    destinations: [],
  }
}
