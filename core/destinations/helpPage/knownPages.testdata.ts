import type { CanvasName, Destination, Rules } from '../../show'

/** A text as it may stand on a help page, all made up by us, and what has to be read out of it. */
export interface HelpPage {
  name: string
  canvas?: CanvasName
  text: string
  rules: Partial<Rules>
  connection?: Partial<Pick<Destination, 'protocol' | 'serverAddress' | 'backupAddress'>>
}

/** These were at hand while the reading was built. */
export const knownPages: readonly HelpPage[] = [
  {
    name: 'a plain list',
    text: `Video codec: H.264
Resolution: up to 1920x1080
Frame rate: up to 60 fps
Video bitrate: 3000 - 6000 kbps
Keyframe interval: 2 s
Audio codec: AAC
Audio bitrate: 128 kbps
Sample rate: 44.1 kHz or 48 kHz`,
    rules: {
      codecs: ['h264'],
      sizes: { type: 'up to', width: 1920, height: 1080 },
      framesPerSecond: { type: 'up to', most: 60 },
      leastVideoBitrateKbps: 3000,
      mostVideoBitrateKbps: 6000,
      longestKeyframeIntervalSeconds: 2,
      audioCodecs: ['aac'],
      mostAudioBitrateKbps: 128,
      audioSampleRatesHz: [44_100, 48_000],
    },
  },
  {
    name: 'sentences',
    text: `We accept H.264 High 4.1 at up to 1080p and 30 frames per second. Your bitrate must not exceed 4.5 Mbps. Please set a keyframe every 2 seconds and use at most two B-frames. Sound is AAC, stereo, up to 160 kb/s.`,
    rules: {
      codecs: ['h264'],
      highestLevel: { h264: '4.1', hevc: null, av1: null },
      sizes: { type: 'up to', width: 1920, height: 1080 },
      framesPerSecond: { type: 'up to', most: 30 },
      mostVideoBitrateKbps: 4500,
      longestKeyframeIntervalSeconds: 2,
      mostBFrames: 2,
      audioCodecs: ['aac'],
      mostAudioChannels: 2,
      mostAudioBitrateKbps: 160,
    },
  },
  {
    name: 'a table with a heading row',
    text: `Resolution\tFrame rate\tVideo bitrate (kbps)
1920x1080\t60\t4500-9000
1280x720\t60\t2250-6000
1280x720\t30\t1500-4000`,
    rules: {
      sizes: { type: 'up to', width: 1920, height: 1080 },
      framesPerSecond: { type: 'up to', most: 60 },
      leastVideoBitrateKbps: 1500,
      mostVideoBitrateKbps: 9000,
    },
  },
  {
    name: 'a table with upright strokes',
    text: `| Setting | Value |
|---|---|
| Protocol | RTMPS |
| Video bitrate | max. 6,000 kbit/s |
| Frame rate | 30 fps only |
| GOP | 2 seconds |
| Audio | AAC-LC, 48 kHz, 128 kbit/s |`,
    rules: {
      mostVideoBitrateKbps: 6000,
      framesPerSecond: { type: 'one of', choices: [30] },
      longestKeyframeIntervalSeconds: 2,
      audioCodecs: ['aac'],
      audioSampleRatesHz: [48_000],
      mostAudioBitrateKbps: 128,
    },
    connection: { protocol: 'rtmps' },
  },
  {
    name: 'headings with the value on the next line',
    text: `Video bitrate
8 Mbit/s maximum

Resolution
2560 × 1440

Keyframe interval
no more than 4 seconds

Server
rtmps://live.longmeadow.example:443/app`,
    rules: {
      mostVideoBitrateKbps: 8000,
      sizes: { type: 'up to', width: 2560, height: 1440 },
      longestKeyframeIntervalSeconds: 4,
    },
    connection: { protocol: 'rtmps', serverAddress: 'rtmps://live.longmeadow.example:443/app' },
  },
  {
    name: 'upright pictures',
    canvas: 'vertical',
    text: `Vertical streams only: 1080x1920 or 720x1280, 30 fps.
Bitrate between 2.5 and 6 Mbps. H.264. Audio AAC 128 kbps at 44.1 kHz.
You get a new stream key for every session.`,
    rules: {
      sizes: {
        type: 'one of',
        sizes: [
          { width: 1080, height: 1920 },
          { width: 720, height: 1280 },
        ],
      },
      leastVideoBitrateKbps: 2500,
      mostVideoBitrateKbps: 6000,
      codecs: ['h264'],
      audioSampleRatesHz: [44_100],
      mostAudioBitrateKbps: 128,
      key: { life: 'per session', hours: null },
    },
  },
  {
    name: 'several codecs',
    text: `Supported video codecs: H.264, H.265 (HEVC) and AV1. Not supported: VP9.
Max resolution 4K at 60fps, max bitrate 40 Mbps.
Audio: AAC or Opus, up to 320kbps.`,
    rules: {
      codecs: ['h264', 'hevc', 'av1'],
      sizes: { type: 'up to', width: 3840, height: 2160 },
      framesPerSecond: { type: 'up to', most: 60 },
      mostVideoBitrateKbps: 40_000,
      audioCodecs: ['aac', 'opus'],
      mostAudioBitrateKbps: 320,
    },
  },
  {
    name: 'a codec that is not taken',
    text: 'Send H.264. HEVC is not supported yet. B-frames: none. Bitrate: 2500 kb/s or less.',
    rules: { codecs: ['h264'], mostBFrames: 0, mostVideoBitrateKbps: 2500 },
  },
  {
    name: 'an SRT ingest',
    text: `Ingest over SRT: srt://in.relayhouse.example:9000
Bitrate limit: 10,000 kb/s including audio`,
    rules: { mostVideoBitrateKbps: 10_000 },
    connection: { protocol: 'srt', serverAddress: 'srt://in.relayhouse.example:9000' },
  },
  {
    name: 'a main and a backup address',
    text: `Primary server: rtmp://a.rookery.example/live
Backup server: rtmp://b.rookery.example/live
Your stream key stays the same for all your streams.`,
    rules: { offersBackup: true, key: { life: 'lasting', hours: null } },
    connection: {
      protocol: 'rtmp',
      serverAddress: 'rtmp://a.rookery.example/live',
    },
  },
  {
    name: 'a key at the end of the address',
    text: 'Stream to rtmps://push.example/app/{stream_key} and press Go live on the page.',
    rules: { start: 'pressed on its page' },
    connection: { serverAddress: 'rtmps://push.example/app' },
  },
  {
    name: 'a profile, CBR and a level',
    text: 'Encode with CBR, High profile, level 4.2, GOP size 60 frames at 30 fps.',
    rules: {
      highestLevel: { h264: '4.2', hevc: null, av1: null },
      longestKeyframeIntervalSeconds: 2,
      framesPerSecond: { type: 'up to', most: 30 },
    },
  },
  {
    name: 'decimal commas and thin spaces',
    text: 'Videobitrate: max. 4,5 Mbit/s. Audio: 44,1 kHz, 128 kbit/s AAC.',
    rules: { mostVideoBitrateKbps: 4500, audioSampleRatesHz: [44_100], mostAudioBitrateKbps: 128 },
  },
  {
    name: 'recommended against allowed',
    text: `Recommended bitrate: 4,500 kbps. Maximum bitrate: 6,000 kbps.`,
    rules: { mostVideoBitrateKbps: 6000 },
  },
  {
    name: 'a locked size',
    text: 'The stream must be 1280x720 at exactly 30 fps. Maximum 4000 kbps. AAC stereo.',
    rules: {
      sizes: { type: 'one of', sizes: [{ width: 1280, height: 720 }] },
      framesPerSecond: { type: 'one of', choices: [30] },
      mostVideoBitrateKbps: 4000,
      mostAudioChannels: 2,
    },
  },
  {
    name: 'names of sizes with rates',
    text: `1080p60: 6 to 9 Mbps
1080p30: 4 to 6 Mbps
720p60: 4 to 6 Mbps`,
    rules: {
      sizes: { type: 'up to', width: 1920, height: 1080 },
      framesPerSecond: { type: 'up to', most: 60 },
      leastVideoBitrateKbps: 4000,
      mostVideoBitrateKbps: 9000,
    },
  },
  {
    name: 'a key that expires',
    text: 'The stream key expires after 24 hours; get a new key for each broadcast.',
    rules: { key: { life: 'per session', hours: 24 } },
  },
  {
    name: 'upload advice beside the rule',
    text: 'You need an upload speed of at least 10 Mbps. The video bitrate may be up to 5000 kbps.',
    rules: { mostVideoBitrateKbps: 5000 },
  },
  {
    name: 'mono only',
    text: 'Audio has to be mono, AAC, 64 kbps, 48000 Hz.',
    rules: {
      mostAudioChannels: 1,
      audioCodecs: ['aac'],
      mostAudioBitrateKbps: 64,
      audioSampleRatesHz: [48_000],
    },
  },
  {
    name: 'thumbnails are no rendition',
    text: 'Thumbnail: 1280x720, under 2 MB.\nVideo: 1920x1080, up to 6000 kbps.',
    rules: {
      sizes: { type: 'up to', width: 1920, height: 1080 },
      mostVideoBitrateKbps: 6000,
    },
  },
  {
    name: 'a ladder',
    text: 'Send up to three renditions: 1280x720, 640x360 and 426x240. Bitrates up to 4000 kb/s.',
    rules: { mostRenditions: 3, mostVideoBitrateKbps: 4000 },
  },
]
