import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { ArrivedFrame } from '../arrival'
import { destination } from '../fit/testShows'
import { defaultSending, type Protocol, type Sending } from '../show'
import type { TrialSend } from './trial'
import { longerWaits, longestWaitSeconds, missingSeconds } from './waits'

const framesPerSecond = 30
const frame = (index: number, waited: number): ArrivedFrame => ({
  ...{ kind: 'video', bytes: 1000, isKey: false },
  decodeSeconds: index / framesPerSecond,
  presentSeconds: index / framesPerSecond,
  atSeconds: 500 + index / framesPerSecond + waited,
})
const sound = (seconds: number): ArrivedFrame => ({
  ...frame(0, 0),
  ...{ kind: 'audio', decodeSeconds: seconds, atSeconds: 900 },
})

describe('what a send waited and lost', () => {
  it('is the longest wait beyond the least, whatever the two clocks show, of the picture alone', () => {
    const frames = [frame(0, 0.4), frame(1, 0.1), frame(2, 2.6), sound(1)]
    expect(longestWaitSeconds(frames)).toBeCloseTo(2.5, 9)
    expect(longestWaitSeconds([frame(0, 1)])).toBeNull()
    expect(longestWaitSeconds([])).toBeNull()
  })

  it('is the time of the frames that are missing between those that came', () => {
    fc.assert(
      fc.property(fc.uniqueArray(fc.integer({ min: 1, max: 98 }), { maxLength: 60 }), (missing) => {
        const frames = Array.from({ length: 100 }, (_, index) => frame(index, 0)).filter(
          (_, index) => !missing.includes(index),
        )
        expect(missingSeconds(frames, framesPerSecond)).toBeCloseTo(
          missing.length / framesPerSecond,
          6,
        )
      }),
    )
    // Rounded to whole milliseconds nothing is missing.
    const rounded = Array.from({ length: 100 }, (_, index) => ({
      ...frame(index, 0),
      decodeSeconds: Math.round((1000 * index) / framesPerSecond) / 1000,
    }))
    expect(missingSeconds(rounded, framesPerSecond)).toBe(0)
  })
})

/**
 * What a sender drops whose queue holds so many seconds, and the longest that its queue grew: second by
 * second, an overflow losing all that waits, as a queue of FFmpeg's does.
 */
function queued(
  carried: readonly number[],
  holdsSeconds: number,
): { dropped: number; longest: number } {
  let waiting = 0
  let dropped = 0
  let longest = 0
  for (const share of carried) {
    waiting = Math.max(0, waiting + 1 - share)
    if (waiting > holdsSeconds) {
      dropped += waiting
      waiting = 0
    }
    longest = Math.max(longest, waiting)
  }
  return { dropped, longest }
}

describe('a longer wait', () => {
  const sent = (
    sending: Partial<Sending>,
    droppedSeconds: number | null,
    { seconds = 30, protocol = 'rtmps' as Protocol } = {},
  ) => {
    const to = destination({}, {}, { protocol, sending: { ...defaultSending, ...sending } })
    const send = { key: `${to.id} ${to.renditions[0]!.id} main`, droppedSeconds } as TrialSend
    return longerWaits({ destinations: [to] }, { sends: [send], seconds })
  }

  it('holds whatever was dropped, however the line went', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 0, max: 2, noNaN: true }), { minLength: 30, maxLength: 120 }),
        fc.double({ min: 0.5, max: 5, noNaN: true }),
        (carried, mostWaitSeconds) => {
          const { dropped } = queued(carried, mostWaitSeconds)
          const [wait] = sent({ mostWaitSeconds }, dropped, { seconds: carried.length })
          if (wait) expect(queued(carried, wait.toSeconds).dropped).toBe(0)
        },
      ),
    )
  })

  it('is offered in half seconds, where frames were dropped that it would hold', () => {
    expect(sent({ mostWaitSeconds: 2.5 }, 3.2)).toMatchObject([
      { fromSeconds: 2.5, toSeconds: 6, droppedSeconds: 3.2 },
    ])
    expect(sent({}, 0.05)).toEqual([])
    expect(sent({}, null)).toEqual([])
    expect(sent({ whenBehind: 'hold' }, 3)).toEqual([])
    // What goes as datagrams does not wait.
    for (const protocol of ['srt', 'whip'] as const) expect(sent({}, 3, { protocol })).toEqual([])
  })

  it('is none where the line carries too little altogether, or none is so long', () => {
    expect(sent({}, 9)).toEqual([])
    expect(sent({ mostWaitSeconds: 59 }, 4)).toEqual([])
  })
})
