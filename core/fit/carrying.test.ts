import { plannedDemoShow } from '@green-mantle/demo'
import { describe, expect, it } from 'vitest'
import { carriesOf } from '../encoding'
import { fitShow, withPlan } from '../plan'
import type { Show } from '../show'
import { isCarried, programLimitsInWords } from './carrying'
import { overloads } from './overloads'

const measured = (carries: NonNullable<Show['computer']['measured']>['carries']) => ({
  at: '2026-11-26T05:00:00.000Z',
  installation: 'this-one',
  processor: 'A processor',
  program: 'FFmpeg 5.1',
  carries,
})
/** A program that was built without encoders of newer codecs for what goes over RTMP. */
const lesser = measured({ rtmp: ['h264'], rtmps: ['h264'], srt: ['h264', 'hevc'], whip: ['h264'] })
const trusting: Show = {
  ...plannedDemoShow,
  fit: { ...plannedDemoShow.fit, newerCodecs: true },
}
const on = (show: Show, program: Show['computer']['measured']): Show => ({
  ...show,
  computer: { ...show.computer, measured: program },
})
const codecsSent = (show: Show): string[] => [
  ...new Set(
    withPlan(show, fitShow(show).parts ?? []).destinations.flatMap(({ renditions }) =>
      renditions.map(({ codec }) => codec),
    ),
  ),
]

describe('what the encoder program can send', () => {
  it('is read off what came back of each try', () => {
    expect(
      carriesOf([
        { codec: 'h264', muxer: 'flv', readBackAs: 'h264' },
        { codec: 'hevc', muxer: 'mp4', readBackAs: null },
        { codec: 'hevc', muxer: 'mpegts', readBackAs: 'hevc' },
        { codec: 'h264', muxer: 'mpegts', readBackAs: 'h264' },
        { codec: 'av1', muxer: 'mp4', readBackAs: 'av1' },
        { codec: 'av1', muxer: 'mpegts', readBackAs: 'bin_data' },
      ]),
    ).toEqual({ rtmp: ['h264', 'av1'], rtmps: ['h264', 'av1'], srt: ['h264'], whip: ['h264'] })
  })

  it('is a rule of the plan, where it was asked', () => {
    expect(codecsSent(on(trusting, null))).toContain('hevc')
    expect(codecsSent(on(trusting, lesser))).toEqual(['h264'])
  })

  it('is said where it costs a codec that could be used', () => {
    expect(programLimitsInWords(on(trusting, null))).toEqual([])
    expect(programLimitsInWords(on(trusting, lesser)).join(' ')).toMatch(
      /Longmeadow takes HEVC.*, but FFmpeg 5\.1 cannot send that over RTMPS/,
    )
  })

  it('is too much where somebody set what cannot be sent', () => {
    const set: Show = {
      ...trusting,
      destinations: trusting.destinations.map((destination) => ({
        ...destination,
        renditions: destination.renditions.map((rendition) => ({ ...rendition, codec: 'hevc' })),
      })),
    }
    expect(overloads(on(set, lesser)).map(({ short }) => short)).toContain(
      'The encoder program can’t send it',
    )
    expect(overloads(on(set, null)).map(({ short }) => short)).not.toContain(
      'The encoder program can’t send it',
    )
  })

  it('rules out nothing where it sends nothing at all that way, as one of long ago over WHIP', () => {
    const over = { connection: 'address and key', protocol: 'whip' } as const
    const none = { ...lesser, carries: { ...lesser.carries, whip: [] } }
    expect(isCarried({ measured: none }, over, 'h264')).toBe(true)
    expect(isCarried({ measured: lesser }, over, 'hevc')).toBe(false)
  })
})
