import {
  type CoverZone,
  type Destination,
  newConnectionDetails,
  newPlanDetails,
  newRules,
  newWordRules,
  noOwnWords,
  type Recording,
  type Rendition,
  type Rules,
  defaultSending,
  defaultPlanChoices,
  type ViewingMode,
  type WordRules,
} from '@green-mantle/core/show'

const rendition = (id: string, settings: Partial<Rendition>): Rendition => ({
  id,
  width: 1920,
  height: 1080,
  framesPerSecond: 30,
  codec: 'h264',
  effort: 'balanced',
  videoBitrateKbps: 3000,
  keyframeIntervalSeconds: 2,
  bFrames: 2,
  audioCodec: 'aac',
  audioBitrateKbps: 160,
  audioChannels: 2,
  audioSampleRateHz: 48_000,
  ...newPlanDetails(),
  ...settings,
})

const rules = (settings: Partial<Rules>): Rules => ({ ...newRules('landscape'), ...settings })

/** What every destination of the demo is like unless it says otherwise. */
/** Their encoder can lower its bitrate while the line is short. */
const lowering = { ...defaultSending, whenBehind: 'lower' } as const
const usual = { ...newConnectionDetails(), plan: defaultPlanChoices }

/** The profile of the same name that ships with the demo, at its first revision. */
const fromProfile = (id: string, name: string): Destination['profile'] => ({
  id,
  name,
  revision: 1,
  dated: '2026-11-02',
})

const phoneWords: WordRules = {
  countedIn: 'characters',
  mostTitle: 60,
  mostDescription: 300,
  mostTags: 8,
  mostTagLength: 24,
  audiences: ['public', 'followers', 'practice'],
  thumbnail: { ratioWidth: 9, ratioHeight: 16, leastWidth: 540, mostBytes: 1_000_000 },
}

const zone = (
  mode: ViewingMode,
  name: string,
  [x, y, width, height]: readonly [number, number, number, number],
): CoverZone => ({
  id: `${mode}-${name}`.replaceAll(/[^a-z-]/g, '-'),
  name,
  mode,
  x,
  y,
  width,
  height,
})

/** The demo's destinations; every one of them is invented. */
export const demoDestinations: Destination[] = [
  {
    id: 'longmeadow',
    name: 'Longmeadow',
    note: 'long shows',
    canvas: 'landscape',
    connection: 'address and key',
    protocol: 'rtmps',
    on: true,
    ...usual,
    sending: lowering,
    profile: fromProfile('longmeadow', 'Longmeadow'),
    serverAddress: 'rtmps://ingest.longmeadow.example:443/live',
    backupAddress: null,
    path: { roundTripMilliseconds: 34, lossPercent: 0.02 },
    chatAddress: 'https://longmeadow.example/chat',
    chatReadBy: 'Oke',
    viewers: ['desk', 'tv'],
    coverZones: [],
    rules: rules({
      offersBackup: true,

      codecs: ['h264', 'hevc', 'av1'],
      sizes: { type: 'up to', width: 2560, height: 1440 },
      mostVideoBitrateKbps: 9000,
    }),
    renditions: [
      rendition('longmeadow-1', { framesPerSecond: 60, effort: 'finest', videoBitrateKbps: 5300 }),
    ],
  },
  {
    id: 'flickerbrook',
    name: 'Flickerbrook',
    note: 'feed',
    canvas: 'vertical',
    connection: 'address and key',
    protocol: 'rtmps',
    on: true,
    ...usual,
    sending: lowering,
    profile: fromProfile('flickerbrook', 'Flickerbrook'),
    serverAddress: 'rtmps://push.flickerbrook.example/live',
    path: { roundTripMilliseconds: 58, lossPercent: 0.05 },
    words: { ...noOwnWords, title: 'A flower opens tonight' },
    chatReadBy: 'Ines, on its page',
    lagSeconds: 6,
    viewers: ['phone'],
    coverZones: [
      zone('feed', 'title', [0.02, 0.02, 0.58, 0.06]),
      zone('feed', 'comments', [0.02, 0.68, 0.7, 0.29]),
      zone('feed', 'buttons', [0.84, 0.52, 0.14, 0.45]),
      zone('full screen', 'title', [0.02, 0.02, 0.58, 0.06]),
      zone('full screen', 'comments', [0.02, 0.76, 0.66, 0.21]),
      zone('full screen', 'gifts', [0.02, 0.66, 0.42, 0.08]),
    ],
    rules: rules({
      end: 'pressed on its page',
      key: { life: 'per session', hours: 12 },
      chat: 'only on its page',
      words: phoneWords,

      sizes: {
        type: 'one of',
        sizes: [
          { width: 1080, height: 1920 },
          { width: 720, height: 1280 },
        ],
      },
      framesPerSecond: { type: 'one of', choices: [30] },
      highestLevel: { h264: '4.2', hevc: null, av1: null },
      longestKeyframeIntervalSeconds: 2,
      mostAudioBitrateKbps: 128,
      audioSampleRatesHz: [44_100],
      start: 'pressed on its page',
    }),
    renditions: [
      rendition('flickerbrook-1', {
        width: 1080,
        height: 1920,
        effort: 'finest',
        videoBitrateKbps: 3150,
        audioBitrateKbps: 128,
        audioSampleRateHz: 44_100,
      }),
    ],
  },
  {
    id: 'commonhall',
    name: 'Commonhall',
    note: 'locked to 720p30',
    canvas: 'landscape',
    connection: 'linked account',
    protocol: 'rtmps',
    on: true,
    ...usual,
    profile: fromProfile('commonhall', 'Commonhall'),
    chatAddress: 'https://commonhall.example/chat',
    chatReadBy: 'Oke',
    viewers: ['desk'],
    coverZones: [],
    rules: rules({
      key: { life: 'no key', hours: null },

      sizes: { type: 'one of', sizes: [{ width: 1280, height: 720 }] },
      framesPerSecond: { type: 'one of', choices: [30] },
      mostVideoBitrateKbps: 4000,
    }),
    renditions: [
      rendition('commonhall-1', {
        width: 1280,
        height: 720,
        effort: 'brisk',
        videoBitrateKbps: 2200,
        audioBitrateKbps: 128,
      }),
    ],
  },
  {
    id: 'tallstory-wide',
    name: 'Tallstory wide',
    note: 'for turned phones',
    canvas: 'landscape',
    connection: 'address and key',
    protocol: 'rtmps',
    on: false,
    ...usual,
    profile: fromProfile('tallstory', 'Tallstory'),
    serverAddress: 'rtmps://in.tallstory.example/wide',
    viewers: ['phone'],
    coverZones: [
      zone('full screen', 'title', [0.02, 0.03, 0.4, 0.1]),
      zone('phone turned', 'comments', [0.64, 0.2, 0.34, 0.7]),
    ],
    rules: rules({ mostVideoBitrateKbps: 6400 }),
    renditions: [
      rendition('tallstory-wide-1', {
        framesPerSecond: 60,
        effort: 'fine',
        videoBitrateKbps: 6400,
      }),
    ],
  },
  {
    id: 'tallstory-tall',
    name: 'Tallstory tall',
    note: 'phones see this first',
    canvas: 'vertical',
    connection: 'address and key',
    protocol: 'rtmps',
    on: false,
    ...usual,
    profile: fromProfile('tallstory', 'Tallstory'),
    serverAddress: 'rtmps://in.tallstory.example/tall',
    viewers: ['phone'],
    coverZones: [
      zone('feed', 'title', [0.03, 0.88, 0.7, 0.09]),
      zone('feed', 'buttons', [0.86, 0.55, 0.12, 0.4]),
      zone('full screen', 'comments', [0.03, 0.74, 0.72, 0.23]),
    ],
    rules: rules({
      words: phoneWords,

      sizes: { type: 'up to', width: 1080, height: 1920 },
      framesPerSecond: { type: 'up to', most: 30 },
      mostVideoBitrateKbps: 3000,
    }),
    renditions: [rendition('tallstory-tall-1', { width: 1080, height: 1920, effort: 'fine' })],
  },
  {
    id: 'relayhouse',
    name: 'Relayhouse',
    note: 'feeds up to five others',
    canvas: 'landscape',
    connection: 'relay',
    protocol: 'srt',
    on: false,
    ...usual,
    profile: fromProfile('relayhouse', 'Relayhouse'),
    serverAddress: 'srt://relayhouse.example:9000?mode=caller&latency=400',
    viewers: ['desk'],
    coverZones: [],
    rules: rules({
      mostFed: 5,
      chat: 'no chat',
      words: { ...newWordRules, thumbnail: null },
      mostVideoBitrateKbps: 10_000,
    }),
    renditions: [
      rendition('relayhouse-1', { framesPerSecond: 60, effort: 'fine', videoBitrateKbps: 6000 }),
    ],
  },
  {
    id: 'kilnside',
    name: 'Kilnside',
    note: 'its own program takes the canvas',
    canvas: 'vertical',
    connection: 'hand-off',
    protocol: 'rtmps',
    on: false,
    ...usual,
    profile: fromProfile('kilnside', 'Kilnside'),
    handOff: { mirrorsPicture: true, isMirroredBack: false, sound: 'our live mix' },
    viewers: ['phone'],
    coverZones: [
      zone('feed', 'comments', [0.02, 0.72, 0.64, 0.24]),
      zone('full screen', 'comments', [0.02, 0.72, 0.64, 0.24]),
    ],
    rules: rules({
      end: 'by its program',
      key: { life: 'no key', hours: null },
      chat: 'only on its page',
      words: phoneWords,

      sizes: { type: 'one of', sizes: [{ width: 1080, height: 1920 }] },
      framesPerSecond: { type: 'one of', choices: [30, 60] },
      mostVideoBitrateKbps: 4800,
      start: 'by its program',
    }),
    renditions: [
      rendition('kilnside-1', {
        width: 1080,
        height: 1920,
        effort: 'brisk',
        videoBitrateKbps: 4800,
        audioBitrateKbps: 128,
      }),
    ],
  },
  {
    id: 'rookery',
    name: 'Rookery',
    note: 'waits for the signal',
    canvas: 'landscape',
    connection: 'address and key',
    protocol: 'rtmp',
    on: false,
    ...usual,
    profile: fromProfile('rookery', 'Rookery'),
    serverAddress: 'rtmp://rookery.example/ladder',
    streamName: 'fernhollow',
    viewers: ['desk', 'phone'],
    coverZones: [],
    rules: rules({ mostVideoBitrateKbps: 4000, mostRenditions: 3 }),
    renditions: [
      rendition('rookery-1', { width: 1280, height: 720, videoBitrateKbps: 3000 }),
      rendition('rookery-2', {
        width: 640,
        height: 360,
        videoBitrateKbps: 900,
        audioBitrateKbps: 96,
      }),
      rendition('rookery-3', {
        width: 426,
        height: 240,
        videoBitrateKbps: 450,
        audioBitrateKbps: 64,
      }),
    ],
  },
]

/** Kept on the disk for the garden's own archive. */
export const demoRecording: Recording = {
  id: 'archive-file',
  name: 'Archive file',
  canvas: 'landscape',
  on: true,
  plan: { priority: 1, mustKeep: false, leftOut: false, planned: false },
  mix: 'archive mix',
  viewers: ['desk'],
  codecs: ['h264'],
  mostVideoBitrateKbps: 16_000,
  rendition: rendition('archive-file-1', {
    framesPerSecond: 60,
    effort: 'brisk',
    videoBitrateKbps: 16_000,
    audioBitrateKbps: 320,
  }),
}
