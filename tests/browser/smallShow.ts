import type { Rendition, Show } from '@green-mantle/core/show'
import { demoShow } from '@green-mantle/demo'

/** The demo at sizes that two cores make beside a browser: one send a canvas, and the recording. */
const picture = (changes: Partial<Rendition>): Partial<Rendition> => ({
  ...{ framesPerSecond: 30, codec: 'h264', effort: 'fastest', bFrames: 0 },
  ...{ keyframeIntervalSeconds: 2, audioSampleRateHz: 48_000, audioBitrateKbps: 128 },
  ...changes,
})
export const smallShow: Show = {
  ...demoShow,
  fit: { ...demoShow.fit, automatic: false },
  canvasPair: {
    framesPerSecond: 30,
    landscape: { width: 640, height: 360 },
    vertical: { width: 360, height: 640 },
  },
  recordings: [],
  destinations: demoShow.destinations
    .filter(({ id }) => id === 'longmeadow' || id === 'flickerbrook')
    .map((destination) => ({
      ...destination,
      on: true,
      plan: { ...destination.plan, leftOut: false },
      rules: {
        ...destination.rules,
        sizes: { type: 'up to', width: 1920, height: 1920 },
        audioSampleRatesHz: [44_100, 48_000],
      },
      renditions: destination.renditions.slice(0, 1).map((rendition) => ({
        ...rendition,
        ...(destination.canvas === 'landscape'
          ? picture({ width: 640, height: 360, videoBitrateKbps: 800 })
          : picture({ width: 360, height: 640, videoBitrateKbps: 600 })),
      })),
    })),
}

const demoRecording = demoShow.recordings[0] as Show['recordings'][number]

/** The small show an hour from now, with a recording; its pages lag by a second. */
export function tonight(): Show {
  const [start] = new Date(Date.now() + 600_000).toISOString().split('.')
  return {
    ...smallShow,
    title: 'A practised night',
    startsAt: (start as string).slice(0, 16),
    timeZone: 'UTC',
    durationMinutes: 1,
    destinations: smallShow.destinations.map((each) => ({
      ...each,
      lagSeconds: 1,
      sending: { ...each.sending, reconnectAfterSeconds: 0.5 },
    })),
    recordings: [
      {
        ...demoRecording,
        on: true,
        plan: { ...demoRecording.plan, leftOut: false },
        rendition: {
          ...demoRecording.rendition,
          ...{ width: 640, height: 360, framesPerSecond: 30, effort: 'fastest' },
          ...{ codec: 'h264', videoBitrateKbps: 800, bFrames: 0 },
        },
      },
    ],
  }
}
