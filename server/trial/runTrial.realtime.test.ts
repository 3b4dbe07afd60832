import {
  type AudioCodec,
  type Codec,
  newDestination,
  newShow,
  type Protocol,
  type Show,
} from '@green-mantle/core/show'
import { afterAll, expect, it } from 'vitest'
import { endAllListening } from '../listeners/listening'
import { runTrial } from './runTrial'

afterAll(() => endAllListening())

let last = 0
const identifier = (): string => `id-${(last += 1)}`

/** One place, small enough for any computer. */
function showOver(protocol: Protocol, codec: Codec, audioCodec: AudioCodec): Show {
  const show = newShow(identifier, { startsAt: '2026-12-12T20:00', timeZone: 'UTC' })
  const place = newDestination(() => 'place', 'Fernhill', 'landscape')
  return {
    ...show,
    canvasPair: { ...show.canvasPair, framesPerSecond: 24, landscape: { width: 640, height: 360 } },
    destinations: [
      {
        ...place,
        protocol,
        rules: { ...place.rules, codecs: [codec], audioCodecs: [audioCodec] },
        renditions: [
          {
            ...place.renditions[0]!,
            ...{ width: 320, height: 180, framesPerSecond: 24, videoBitrateKbps: 600 },
            ...{ audioCodec, audioBitrateKbps: 96, audioSampleRateHz: 48_000 },
            ...{ codec, keyframeIntervalSeconds: 1, bFrames: 0, effort: 'fastest' },
          },
        ],
      },
    ],
    recordings: [],
  }
}

it.each([
  ['whip', 'h264', 'opus'],
  ['rtmp', 'hevc', 'aac'],
] as const)(
  'sends over %s what was planned in %s with %s, counts what crosses, and looks at what arrived',
  async (protocol, codec, audioCodec) => {
    const { processes, sends } = await runTrial({
      ...{
        showId: `trial ${protocol}`,
        show: showOver(protocol, codec, audioCodec),
        installation: 'here',
        seconds: 9,
      },
      ...{ line: null, ownHost: null, clips: { landscape: null, vertical: null } },
      pieces: () => {
        throw new Error('Nothing is shown but test pictures.')
      },
      ...{ signal: new AbortController().signal, report: () => {} },
    })
    expect(processes.map(({ problem }) => problem)).toEqual([''])
    const [{ speed }, send] = [processes[0]!, sends[0]!]
    // A busy computer makes less of it in time, and less arrives then.
    expect(speed).toBeGreaterThan(0.3)
    expect(speed).toBeLessThanOrEqual(1)
    expect(send).toMatchObject({
      ...{ name: 'Fernhill', plannedWords: '180p24', longestKeyframeSpacingSeconds: 1 },
      ...{
        arrivedWords: expect.stringMatching(
          codec === 'h264' ? /^320×180, h264 High/ : /^320×180, hevc Main/,
        ),
        droppedSeconds: 0,
      },
    })
    expect(send.findings.filter(({ kind }) => kind === 'breach')).toEqual([])
    // By the listener's clock, which knows nothing of what the encoder says of its speed.
    expect(send.arrivedFramesPerSecond! / 24 / speed!).toBeGreaterThan(0.85)
    expect(send.arrivedFramesPerSecond! / 24 / speed!).toBeLessThan(1.2)
    expect(send.arrivedFramesPerSecond).toBeLessThanOrEqual(24.1)
    // What has crossed and is not read yet counts as well: on a busy computer that is a second of seven.
    expect(send.wireBytes! / send.computedWireBytes!).toBeGreaterThan(0.8)
    expect(send.wireBytes! / send.computedWireBytes!).toBeLessThan(1.25)
    expect(send.picture?.ssim).toBeGreaterThan(0.8)
  },
)
