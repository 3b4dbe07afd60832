import type { CanvasName, CanvasPair, Size } from './canvasPair'
import { type Destination, lagSecondsLimits, type Rules } from './destination'
import { type Dressing, ourDressings } from './dressing'
import { type Computer, type Device, plannedShareLimitsPercent } from './encoder'
import type { MakeIdentifier } from './identifier'
import { headroomLimitsPercent, type Line, lowPercentileLimits } from './line'
import { defaultFitSettings, defaultPlanChoices } from './plan'
import type { Recording } from './recording'
import { defaultRehearsal } from './rehearsal'
import { defaultRunSheet } from './runSheet'
import type { Rendition } from './rendition'
import { defaultSending } from './sending'
import type { Placement, Scene, Transition } from './scene'
import type { Show } from './show'
import { noOwnWords, type ShowWords, type WordRules } from './showWords'
import type { Sound, SoundKind } from './sound'
import type { Source, SourceKind } from './source'

/**
 * Common practice, no published source: constant bitrate, High profile, Lanczos. With 20 frames of
 * look-ahead the software H.264 encoder spends its bits where they are seen longest.
 */
export function newPlanDetails(): Pick<Rendition, 'encoder' | 'pins'> {
  return {
    encoder: {
      deviceId: null,
      rateControl: 'constant',
      profile: 'high',
      lookAheadFrames: 20,
      downscaling: 'lanczos',
    },
    pins: [],
  }
}

/** A computer of which nothing is known yet. */
export const newComputer: Computer = {
  name: '',
  devices: [],
  freeDiskGigabytes: null,
  measured: null,
}

export function newDevice(id: string, name: string): Device {
  return {
    id,
    name,
    kind: 'processor',
    plannedSharePercent: plannedShareLimitsPercent.default,
    sessions: null,
    largest: { width: 4096, height: 2304 },
    throughputs: [{ codec: 'h264', effort: 'balanced', megapixelsPerSecond: 200 }],
  }
}

/** A recording of one canvas as it is, to be watched on a desk. */
export function newRecording(
  makeIdentifier: MakeIdentifier,
  name: string,
  { canvas, size }: { canvas: CanvasName; size: Size },
): Recording {
  const { priority, mustKeep, leftOut, planned } = defaultPlanChoices
  return {
    id: makeIdentifier(),
    name,
    canvas,
    on: true,
    plan: { priority, mustKeep, leftOut, planned },
    mix: 'archive mix',
    viewers: ['desk'],
    codecs: ['h264'],
    mostVideoBitrateKbps: 16_000,
    rendition: { ...newRendition(makeIdentifier(), canvas), ...size, videoBitrateKbps: 8000 },
  }
}

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
    audioCodec: 'aac',
    audioBitrateKbps: 160,
    audioChannels: 2,
    audioSampleRateHz: 48_000,
    ...newPlanDetails(),
  }
}

/** Limits wide enough for most; the thumbnail's are common practice, no published source. */
export const newWordRules: WordRules = {
  countedIn: 'characters',
  mostTitle: 100,
  mostDescription: 5000,
  mostTags: null,
  mostTagLength: null,
  audiences: ['public', 'unlisted', 'followers', 'practice'],
  thumbnail: { ratioWidth: 16, ratioHeight: 9, leastWidth: 640, mostBytes: 2_000_000 },
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
    audioCodecs: ['aac'],
    mostAudioBitrateKbps: 320,
    mostAudioChannels: 2,
    audioSampleRatesHz: [44_100, 48_000],
    mostRenditions: 1,
    start: 'live when it arrives',
    end: 'when the signal stops',
    key: { life: 'lasting', hours: null },
    chat: 'readable elsewhere',
    offersBackup: false,
    mostFed: 0,
    words: newWordRules,
  }
}

/** What is known of how a destination is reached before anything was said of it. */
export function newConnectionDetails(): Pick<
  Destination,
  | 'serverAddress'
  | 'backupAddress'
  | 'streamName'
  | 'account'
  | 'relayId'
  | 'handOff'
  | 'path'
  | 'words'
  | 'chatAddress'
  | 'chatReadBy'
  | 'lagSeconds'
  | 'sending'
> {
  return {
    serverAddress: '',
    backupAddress: null,
    streamName: '',
    account: null,
    relayId: null,
    handOff: { mirrorsPicture: false, isMirroredBack: false, sound: 'our live mix' },
    path: { roundTripMilliseconds: null, lossPercent: null },
    words: noOwnWords,
    chatAddress: '',
    chatReadBy: '',
    lagSeconds: lagSecondsLimits.default,
    sending: defaultSending,
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
    plan: defaultPlanChoices,
    profile: null,
    ...newConnectionDetails(),
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

export const defaultTransition: Transition = { kind: 'fade', milliseconds: 300 }
export const defaultDressing: Dressing = ourDressings[0]

export const newLine = (id: string, name: string): Line => ({
  id,
  name,
  lowPercentile: lowPercentileLimits.default,
  medium: null,
  headroomPercent: headroomLimitsPercent.default,
  samples: [],
  otherTraffic: [],
  dataCap: null,
  localNetwork: { linkKbps: 1_000_000, devices: [] },
})

export const newShowWords: ShowWords = {
  description: '',
  category: '',
  tags: [],
  language: '',
  audience: 'public',
  thumbnail: null,
}

/** Common practice: a microphone is one channel with its noise taken down; music is not kept. */
const newSoundStarts: Record<SoundKind, Partial<Sound>> = {
  microphone: { channels: 1, noiseSuppression: true },
  'computer sound': {},
  music: { mixes: { live: true, archive: false }, mayBeKept: false },
  'own sound': {},
}

/** A sound as one of its kind usually is, in both mixes unless it is music. */
export const newSound = (id: string, name: string, kind: SoundKind): Sound => ({
  id,
  name,
  kind,
  sourceId: null,
  input: '',
  levelDecibels: 0,
  muted: false,
  channels: 2,
  sampleRateHz: 48_000,
  noiseSuppression: false,
  delayMilliseconds: 0,
  mixes: { live: true, archive: true },
  alsoHeardIn: [],
  mayBeKept: true,
  ...newSoundStarts[kind],
})

const defaultCanvasPair = (): CanvasPair => ({
  framesPerSecond: 60,
  landscape: { width: 1920, height: 1080 },
  vertical: { width: 1080, height: 1920 },
})

/** An empty show: one scene with nothing in it, no measurement, no destination. */
export function newShow(
  makeIdentifier: MakeIdentifier,
  when: { startsAt: string; timeZone: string },
): Show {
  const line = newLine(makeIdentifier(), 'Line')
  return {
    title: 'New show',
    ...when,
    durationMinutes: 120,
    pictureKind: 'talking',
    ownPicture: null,
    canvasPair: defaultCanvasPair(),
    sources: [],
    scenes: [newScene(makeIdentifier(), 'Scene 1')],
    transition: defaultTransition,
    dressing: defaultDressing,
    sounds: [],
    mixSampleRateHz: 48_000,
    lines: [line],
    lineId: line.id,
    words: newShowWords,
    destinations: [],
    recordings: [],
    computer: newComputer,
    fit: defaultFitSettings,
    rehearsal: defaultRehearsal,
    runSheet: defaultRunSheet,
    keptPlans: [],
  }
}
