import type { HelpPage } from './knownPages.testdata'

/** These were written after the reading was built, in ways not seen before. */
export const laterPages: readonly HelpPage[] = [
  {
    name: 'questions and answers',
    text: `What resolution can I stream in?
Anything up to Full HD (1080p).
How many frames per second?
You can choose 25, 30 or 50.
What's the highest bitrate?
We cut off everything above 7.5 Mbit/s.`,
    rules: {
      sizes: { type: 'up to', width: 1920, height: 1080 },
      framesPerSecond: { type: 'one of', choices: [25, 30, 50] },
      mostVideoBitrateKbps: 7500,
    },
  },
  {
    name: 'shouting',
    text: 'MAX BITRATE 8000 KBPS. MAX RES 1920X1080. MAX FPS 60. KEYFRAMES EVERY 2 SEC. AUDIO AAC 320 KBPS 48KHZ.',
    rules: {
      mostVideoBitrateKbps: 8000,
      sizes: { type: 'up to', width: 1920, height: 1080 },
      framesPerSecond: { type: 'up to', most: 60 },
      longestKeyframeIntervalSeconds: 2,
      mostAudioBitrateKbps: 320,
      audioSampleRatesHz: [48_000],
    },
  },
  {
    name: 'colons and semicolons in one line',
    text: 'Container: FLV over RTMPS; Video: AVC, yuv420p, 1280 by 720 pixels, 25 frames/s, ≤ 3500 kbit/s; Audio: AAC-LC 96 kbit/s mono',
    rules: {
      codecs: ['h264'],
      sizes: { type: 'up to', width: 1280, height: 720 },
      framesPerSecond: { type: 'up to', most: 25 },
      mostVideoBitrateKbps: 3500,
      audioCodecs: ['aac'],
      mostAudioBitrateKbps: 96,
      mostAudioChannels: 1,
    },
    connection: { protocol: 'rtmps' },
  },
  {
    name: 'a table with settings in the first column and two qualities',
    text: `\tStandard\tHigh
Resolution\t1280x720\t1920x1080
Frame rate\t30 fps\t60 fps
Bitrate\t2,500 kbps\t6,000 kbps
Keyframe interval\t2 s\t2 s`,
    rules: {
      sizes: { type: 'up to', width: 1920, height: 1080 },
      framesPerSecond: { type: 'up to', most: 60 },
      mostVideoBitrateKbps: 6000,
      longestKeyframeIntervalSeconds: 2,
    },
  },
  {
    name: 'a broadcaster with mastering words',
    text: `Contribution feeds are delivered as SRT (caller) to srt://feeds.example:7001.
Video: HEVC Main or AVC High@L4.0, progressive, 1080p25 or 1080p50.
Total bitrate shall be 12 Mb/s or below. I-frame distance shall not exceed 1 s. The use of B-frames is limited to 3.
Audio shall be AAC-LC at 256 kb/s, 48 kHz, two channels.`,
    rules: {
      codecs: ['h264', 'hevc'],
      framesPerSecond: { type: 'up to', most: 50 },
      mostVideoBitrateKbps: 12_000,
      longestKeyframeIntervalSeconds: 1,
      mostBFrames: 3,
      mostAudioBitrateKbps: 256,
      audioSampleRatesHz: [48_000],
      mostAudioChannels: 2,
    },
    connection: { protocol: 'srt', serverAddress: 'srt://feeds.example:7001' },
  },
  {
    name: 'a chat answer',
    canvas: 'vertical',
    text: `hi! so for phones we want 9:16, ideally 1080 x 1920, 30fps. keep it around 4500k, never go over 6000k bitrate. keyframes every two seconds. sound 128k aac stereo 44.1khz. and the key is only good for 12 hours, grab a fresh key each time`,
    rules: {
      sizes: { type: 'up to', width: 1080, height: 1920 },
      mostVideoBitrateKbps: 6000,
      longestKeyframeIntervalSeconds: 2,
      audioSampleRatesHz: [44_100],
      key: { life: 'per session', hours: 12 },
    },
  },
  {
    name: 'HTML pasted with its tags',
    text: `<ul><li>Video bitrate: <b>up to 5,000 Kbps</b></li><li>Resolution: <b>720p or 1080p</b></li><li>Frame rate: <b>30fps</b></li></ul>`,
    rules: {
      mostVideoBitrateKbps: 5000,
      sizes: { type: 'up to', width: 1920, height: 1080 },
      framesPerSecond: { type: 'up to', most: 30 },
    },
  },
  {
    name: 'least and most apart',
    text: 'Minimum video bitrate: 1 Mbps\nMaximum video bitrate: 6 Mbps\nMinimum audio bitrate: 64 kbps\nMaximum audio bitrate: 128 kbps',
    rules: { leastVideoBitrateKbps: 1000, mostVideoBitrateKbps: 6000, mostAudioBitrateKbps: 128 },
  },
  {
    name: 'numbers with spaces',
    text: 'Le débit vidéo: max 6 000 kbit/s. Audio max 160 kbit/s.',
    rules: { mostVideoBitrateKbps: 6000, mostAudioBitrateKbps: 160 },
  },
  {
    name: 'a webinar service',
    text: `Custom live streaming requires: H.264 video, AAC audio. Video resolution 1280x720 at 25 fps; bitrate up to 4000 Kbps. Keyframe frequency: 4 seconds. Audio sample rate: 44.1 KHz, audio bitrate up to 256 Kbps. Viewers see the event only after you press Start broadcast in the control room.`,
    rules: {
      codecs: ['h264'],
      audioCodecs: ['aac'],
      sizes: { type: 'up to', width: 1280, height: 720 },
      framesPerSecond: { type: 'up to', most: 25 },
      mostVideoBitrateKbps: 4000,
      longestKeyframeIntervalSeconds: 4,
      audioSampleRatesHz: [44_100],
      mostAudioBitrateKbps: 256,
      start: 'pressed on its page',
    },
  },
  {
    name: 'live at once',
    text: 'As soon as we receive your signal you are live automatically. Persistent stream key. RTMP only.',
    rules: { start: 'live when it arrives', key: { life: 'lasting', hours: null } },
    connection: { protocol: 'rtmp' },
  },
  {
    name: 'limits in a warning',
    text: 'Warning: streams with a bitrate higher than 8,500 Kbps, more than 60 fps or larger than 1080p are disconnected.',
    rules: {
      mostVideoBitrateKbps: 8500,
      framesPerSecond: { type: 'up to', most: 60 },
      sizes: { type: 'up to', width: 1920, height: 1080 },
    },
  },
  {
    name: 'an encoder dialog copied out',
    text: `Output Mode: Advanced
Rate Control: CBR
Bitrate: 3500 Kbps
Keyframe Interval (0=auto): 2 s
Profile: main
Tune: (none)
Max B-frames: 0`,
    rules: { mostVideoBitrateKbps: 3500, longestKeyframeIntervalSeconds: 2, mostBFrames: 0 },
  },
  {
    name: 'a WHIP endpoint',
    text: 'We take WebRTC by WHIP at https://ingest.hilltop.example/whip/endpoint. Codecs: H.264 (no B-frames) with Opus at 48 kHz, stereo.',
    rules: {
      codecs: ['h264'],
      mostBFrames: 0,
      audioCodecs: ['opus'],
      audioSampleRatesHz: [48_000],
      mostAudioChannels: 2,
    },
    connection: { protocol: 'whip', serverAddress: 'https://ingest.hilltop.example/whip/endpoint' },
  },
  {
    name: 'a table with bitrates in Mbps under their heading',
    text: `Quality | Min (Mbps) bitrate | Max (Mbps) bitrate
4K / 2160p @60fps | 20 | 51
1440p @60fps | 9 | 18
1080p @60fps | 4.5 | 9`,
    rules: {
      sizes: { type: 'up to', width: 3840, height: 2160 },
      framesPerSecond: { type: 'up to', most: 60 },
      mostVideoBitrateKbps: 51_000,
      leastVideoBitrateKbps: 4500,
    },
  },
  {
    name: 'lines broken in the middle',
    text: `The ingest accepts a video bitrate of
no more than 6500 kbit/s, and expects a keyframe interval
of two seconds with at most 2 B-frames between reference frames.`,
    rules: { mostVideoBitrateKbps: 6500, longestKeyframeIntervalSeconds: 2, mostBFrames: 2 },
  },
  {
    name: 'a limit put after its value',
    text: 'Bitrate: 4000 kbps max. Size: 1080p at most. 60 fps max. Audio: 192 kbps maximum.',
    rules: {
      mostVideoBitrateKbps: 4000,
      sizes: { type: 'up to', width: 1920, height: 1080 },
      framesPerSecond: { type: 'up to', most: 60 },
      mostAudioBitrateKbps: 192,
    },
  },
  {
    name: 'bullets with dashes',
    text: `• Codec – H.264 / AVC, Baseline, Main or High
• Level – up to 4.1
• Size – 854×480 up to 1920×1080
• Rate – 24, 25 or 30 fps
• Video – 500 to 5 000 kbps
• Audio – AAC, 44 100 Hz, up to 128 kbps`,
    rules: {
      codecs: ['h264'],
      highestLevel: { h264: '4.1', hevc: null, av1: null },
      sizes: { type: 'up to', width: 1920, height: 1080 },
      framesPerSecond: { type: 'one of', choices: [24, 25, 30] },
      leastVideoBitrateKbps: 500,
      mostVideoBitrateKbps: 5000,
      audioSampleRatesHz: [44_100],
      mostAudioBitrateKbps: 128,
    },
  },
  {
    name: 'a second ingest in words',
    text: 'Send the same stream to rtmps://one.example/live and, as a backup, to rtmps://two.example/live.',
    rules: { offersBackup: true },
    connection: {
      serverAddress: 'rtmps://one.example/live',
    },
  },
  {
    name: 'in bits',
    text: 'maxVideoBitrate = 6 Mb/s, maxAudioBitrate = 160 kb/s, keyFrameInterval = 2 s, maxFrameRate = 30 fps',
    rules: {
      mostVideoBitrateKbps: 6000,
      mostAudioBitrateKbps: 160,
      longestKeyframeIntervalSeconds: 2,
      framesPerSecond: { type: 'up to', most: 30 },
    },
  },
  {
    name: 'what happens if',
    text: `If your keyframe interval is longer than 5 seconds, viewers may see errors. If your bitrate exceeds 6 Mbps, the stream may be unstable. Streams above 30 fps are converted.`,
    rules: {
      longestKeyframeIntervalSeconds: 5,
      mostVideoBitrateKbps: 6000,
      framesPerSecond: { type: 'up to', most: 30 },
    },
  },
]
