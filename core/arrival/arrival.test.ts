import { plannedDemoShow } from '@green-mantle/demo'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Destination } from '../show'
import { type Arrival, type ArrivedFrame, nothingArrived, takeFrame } from './arrival'
import { type ExpectedSend, findingsOf } from './findings'
import { bFramesIn, busiestKbps, hasOpenGroups, reportOf } from './report'

/** A send of 30 fps with a keyframe every two seconds, 50 kbit a frame, and stereo AAC, as planned for the first destination. */
interface Made {
  seconds?: number
  fps?: number
  keyframeSeconds?: number
  bFrames?: number
  frameBytes?: number
  withSound?: boolean
  soundLateSeconds?: number
}
function arrivalOf({
  seconds = 12,
  fps = 60,
  keyframeSeconds = 2,
  bFrames = 2,
  frameBytes = 11_000,
  withSound = true,
  soundLateSeconds = 0,
}: Made = {}): Arrival {
  const arrival = nothingArrived()
  const frames: ArrivedFrame[] = []
  const group = bFrames + 1
  for (let index = 0; index < seconds * fps; index += 1) {
    const decode = index / fps
    // Decoded in the order I P b b P b b: each reference is shown `bFrames` later than its neighbours in a row.
    const isKey = index % Math.round(keyframeSeconds * fps) === 0
    const place = index % Math.round(keyframeSeconds * fps)
    const inGroup = isKey ? -1 : (place - 1) % group
    // The last of a group of pictures may have fewer to wait for.
    const waits = Math.min(group, Math.round(keyframeSeconds * fps) - place)
    const shift = isKey || bFrames === 0 ? 1 : inGroup === 0 ? waits : 0
    frames.push({
      kind: 'video',
      bytes: frameBytes,
      decodeSeconds: decode,
      presentSeconds: decode + shift / fps,
      isKey,
      atSeconds: decode,
    })
  }
  for (let index = 0; withSound && index < seconds * 46.875; index += 1)
    frames.push({
      kind: 'audio',
      bytes: 427,
      decodeSeconds: index / 46.875,
      presentSeconds: index / 46.875,
      isKey: false,
      atSeconds: index / 46.875 + soundLateSeconds,
    })
  frames.sort((a, b) => a.atSeconds - b.atSeconds)
  for (const frame of frames) takeFrame(arrival, frame)
  arrival.picture = { codec: 'h264', profile: 'High', level: '4.2', width: 1920, height: 1080 }
  arrival.sound = { codec: 'aac', sampleRateHz: 48_000, channels: 2 }
  return arrival
}

const destination = plannedDemoShow.destinations[0] as Destination
const [planned] = destination.renditions as [Destination['renditions'][number]]
const expected: ExpectedSend = {
  destination,
  canvasPair: plannedDemoShow.canvasPair,
  usableKbps: 12_000,
  rendition: {
    ...planned,
    ...{ width: 1920, height: 1080, framesPerSecond: 60, codec: 'h264' },
    ...{ bFrames: 2, keyframeIntervalSeconds: 2, videoBitrateKbps: 5280 },
    ...{ audioBitrateKbps: 160, audioSampleRateHz: 48_000, audioChannels: 2 },
  },
}
const said = (arrival: Arrival, nowSeconds = 12, changes: Partial<ExpectedSend> = {}): string =>
  findingsOf(reportOf(arrival, nowSeconds)!, { ...expected, ...changes })
    .map(({ kind, words }) => `${kind}: ${words}`)
    .join('\n')

describe('what arrived', () => {
  it('is nothing at first', () => {
    expect(reportOf(nothingArrived(), 5)).toBeNull()
  })

  it('comes out as it was made', () => {
    const report = reportOf(arrivalOf(), 12)!
    expect(report.picture).toMatchObject({
      framesPerSecond: 60,
      bFrames: 2,
      hasOpenGroups: false,
      hasVariableRate: false,
      shortestKeyframeSpacingSeconds: expect.closeTo(2, 9),
      longestKeyframeSpacingSeconds: expect.closeTo(2, 9),
      bitrateKbps: expect.closeTo(60 * 11 * 8, 6),
    })
    expect(report.sound?.bitrateKbps).toBeCloseTo(427 * 8 * 46.875e-3, 6)
    expect(report.soundLateSeconds).toBeCloseTo(0, 1)
  })

  it('is never busier in a shorter stretch than what is in it, nor less busy than its mean', () => {
    const frame = fc.record({
      kind: fc.constant('video' as const),
      bytes: fc.integer({ min: 1, max: 200_000 }),
      decodeSeconds: fc.double({ min: 0, max: 20, noNaN: true }),
      presentSeconds: fc.constant(0),
      isKey: fc.boolean(),
      atSeconds: fc.constant(0),
    })
    fc.assert(
      fc.property(fc.array(frame, { minLength: 1, maxLength: 200 }), (frames) => {
        const second = busiestKbps(frames, 1)
        const all = frames.reduce((sum, { bytes }) => sum + bytes, 0)
        expect(second).toBeLessThanOrEqual((all * 8) / 1000 + 1e-6)
        expect(busiestKbps(frames, 0.1)).toBeGreaterThanOrEqual(second / 11 - 1e-6)
        expect(busiestKbps(frames, 40)).toBeCloseTo((all * 8) / 1000 / 40, 6)
      }),
    )
  })

  it('keeps a bounded number of frames, and its longest spacing for good', () => {
    const arrival = arrivalOf({ seconds: 600, fps: 30, keyframeSeconds: 2 })
    expect(arrival.frames.length).toBeLessThan(200 * (30 + 47))
    expect(arrival.videoFrames).toBe(18_000)
    expect(arrival.longestKeyframeSpacingSeconds).toBeCloseTo(2, 6)
  })

  it('counts B-frames by what is shown before what came earlier, and knows open groups', () => {
    for (const bFrames of [0, 1, 2, 3])
      expect(bFramesIn(arrivalOf({ bFrames, withSound: false }).frames)).toBe(bFrames)
    const open = arrivalOf({ withSound: false }).frames.map((frame) => ({ ...frame }))
    const key = open.findIndex(({ isKey }, index) => isKey && index > 0)
    open[key]!.presentSeconds += 3 / 60
    open[key + 1]!.presentSeconds = open[key]!.decodeSeconds
    expect(hasOpenGroups(open)).toBe(true)
  })
})

describe('what is said of it', () => {
  it('is nothing where all is as planned', () => {
    expect(said(arrivalOf())).toBe('')
  })

  it.each([
    [
      'a keyframe too seldom, with what is wanted',
      { keyframeSeconds: 8 },
      /breach: .* wants a keyframe every \d+ s or sooner, not every 8 s\./,
    ],
    [
      'half the frame rate',
      { fps: 30, frameBytes: 22_000 },
      /differs: 30 frames a second arrive, planned are 60/,
    ],
    ['no B-frames', { bFrames: 0 }, /differs: 0 B-frames arrive, planned are 2/],
    [
      'half the bitrate',
      { frameBytes: 5500 },
      /differs: 2,640 kb\/s of picture arrive, planned are 5,280/,
    ],
    [
      'more than the destination takes',
      { frameBytes: 25_000 },
      /breach: .* takes at most [\d,]+ kb\/s of video, not 12,000/,
    ],
    ['no sound', { withSound: false }, /unforeseen: No sound arrives/],
    [
      'sound half a second late',
      { soundLateSeconds: 0.5 },
      /unforeseen: Sound and picture are 0\.5 s apart: the sound comes late/,
    ],
  ] as const)('tells of %s', (_, made, words) => {
    expect(said(arrivalOf(made))).toMatch(words)
  })

  it.each<[string, Partial<Arrival['picture']>, RegExp]>([
    [
      '4:4:4',
      { profile: 'High 4:4:4 Predictive' },
      /breach: High 4:4:4 Predictive arrives: its colours/,
    ],
    ['4:2:2', { profile: 'High 4:2:2' }, /breach: .*Set 4:2:0/],
    ['10 bits', { profile: 'High 10' }, /breach: High 10 arrives, with more than 8 bits/],
    ['10 bits of HEVC', { codec: 'hevc', profile: 'Main 10' }, /breach: Main 10 arrives/],
    ['halves of lines', { isInterlaced: true }, /breach: The picture is interlaced/],
    [
      'a plainer profile',
      { profile: 'Main' },
      /differs: The profile Main arrives, planned is high: the picture is worse/,
    ],
    [
      'a plain one',
      { profile: 'Constrained Baseline' },
      /differs: The profile Constrained Baseline arrives/,
    ],
  ])('tells of %s', (_, picture, words) => {
    const arrival = arrivalOf()
    Object.assign(arrival.picture!, picture)
    expect(said(arrival)).toMatch(words)
  })

  it('tells of a rate a thousandth below, keyframes denser than planned, and HE-AAC', () => {
    const broadcast = arrivalOf({ fps: 60 / 1.001 })
    expect(said(broadcast)).toMatch(/differs: 59.94 frames a second arrive, planned are 60/)
    expect(said(arrivalOf())).not.toMatch(/59.94/)
    expect(said(arrivalOf({ keyframeSeconds: 0.5 }))).toMatch(
      /differs: A keyframe comes every 0.5 s, planned is every 2 s: each takes bits/,
    )
    const efficient = arrivalOf()
    efficient.sound!.isHighEfficiency = true
    expect(said(efficient)).toMatch(/differs: The sound is HE-AAC/)
  })

  it('tells the other canvas by its shape, and then does not go through what differs', () => {
    const arrival = arrivalOf()
    Object.assign(arrival.picture!, { width: 1080, height: 1920 })
    const words = said(arrival)
    expect(words).toMatch(/that is the vertical canvas, and .* is sent the landscape one/)
    expect(words).not.toMatch(/differs/)
  })

  it('tells of a picture that stands still, of silence and of nothing coming any more', () => {
    const arrival = arrivalOf()
    arrival.watched = { frozenSinceSeconds: 4, silentSinceSeconds: 6 }
    const words = said(arrival, 20)
    expect(words).toMatch(/picture has not moved for 8 s/)
    expect(words).toMatch(/silent for 6 s/)
    expect(words).toMatch(/Nothing has arrived for 8 s/)
  })

  it.each([0, 1, 2, 3])('misses nothing that is still to come, with %i B-frames', (bFrames) => {
    const arrival = arrivalOf({ bFrames, withSound: false })
    // Looked at after any frame, and with whatever was kept no longer.
    for (let last = 120; last < 260; last += 1)
      for (const first of [0, 1, 2, 3, 4, 5]) {
        const looked = { ...arrival, frames: arrival.frames.slice(first, last) }
        expect(reportOf(looked, last / 60)?.picture?.missingFrames).toBe(0)
      }
  })

  it('tells missing frames from changing intervals', () => {
    const whole = arrivalOf()
    const video = whole.frames.filter(({ kind }) => kind === 'video')
    const without = new Set([video[70], video[71], video[200]])
    whole.frames = whole.frames.filter((frame) => !without.has(frame))
    expect(said(whole)).toMatch(/Three frames are missing in the last 12 s/)
    const jittered = arrivalOf()
    jittered.frames
      .filter(({ kind }) => kind === 'video')
      .forEach((frame, index) => (frame.presentSeconds += index % 3 === 0 ? 0.006 : 0))
    expect(said(jittered)).toMatch(/Frames come at changing intervals/)
    expect(said(jittered)).not.toMatch(/missing/)
  })

  it('tells of peaks above the usable upload, and of mono', () => {
    const arrival = arrivalOf()
    arrival.sound!.channels = 1
    const words = said(arrival, 12, { usableKbps: 5000 })
    expect(words).toMatch(
      /busiest second takes 5,\d+ kb\/s, more than the 5,000 of the usable upload/,
    )
    expect(words).toMatch(/sound is mono, planned is stereo/)
  })
})
