import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { onAirSound, soundFrameBytes } from './messages'
import { newTimeline, type OutPiece, standbyAfterMilliseconds } from './timeline'

const framesPerSecond = 30
const frame = 1000 / framesPerSecond
const live = Uint8Array.of(1)
const still = [Uint8Array.of(50), Uint8Array.of(51), Uint8Array.of(52)]

/** A window that sends for some milliseconds from `now`, its own clock at `from`. */
function sends(
  timeline: ReturnType<typeof newTimeline>,
  { now, from, milliseconds }: { now: number; from: number; milliseconds: number },
): OutPiece[] {
  const pieces: OutPiece[] = []
  for (let index = 0; index * frame < milliseconds; index += 1) {
    const own = from + index * frame
    const picture = {
      ...{ kind: 'picture' as const, canvas: 'landscape' as const, lane: 0, bytes: live },
      ...{ isKey: index % framesPerSecond === 0, atMicroseconds: own * 1000 },
    }
    const first = Math.round((own * onAirSound.sampleRateHz) / 1000)
    const next = Math.round(((own + frame) * onAirSound.sampleRateHz) / 1000)
    pieces.push(
      ...timeline.picture(picture, now + index * frame),
      ...timeline.sound({
        ...{ kind: 'sound', mix: 'live', firstSample: first },
        bytes: new Uint8Array((next - first) * soundFrameBytes).fill(7),
      }),
      ...timeline.tick(now + index * frame),
    )
  }
  return pieces
}
function ticks(timeline: ReturnType<typeof newTimeline>, from: number, to: number): OutPiece[] {
  const pieces: OutPiece[] = []
  for (let now = from; now <= to; now += 50) pieces.push(...timeline.tick(now))
  return pieces
}
function withStandby() {
  const timeline = newTimeline(framesPerSecond)
  still.forEach((bytes, index) => timeline.keepStandby(index, bytes))
  return timeline
}
const pictures = (pieces: readonly OutPiece[]) => pieces.filter((each) => each.kind === 'picture')
const soundOf = (pieces: readonly OutPiece[], mix: 'live' | 'archive') =>
  pieces.filter((each) => each.kind === 'sound' && each.mix === mix)

/** Times only go up, and sound has neither gap nor overlap. */
function expectWhole(pieces: readonly OutPiece[]): void {
  const times = pictures(pieces).map(({ atMilliseconds }) => atMilliseconds)
  times.slice(1).forEach((time, index) => expect(time).toBeGreaterThan(times[index]!))
  for (const mix of ['live', 'archive'] as const) {
    let samples = 0
    for (const { atMilliseconds, bytes } of soundOf(pieces, mix)) {
      expect(atMilliseconds).toBeCloseTo((samples * 1000) / onAirSound.sampleRateHz, 6)
      samples += bytes.length / soundFrameBytes
    }
  }
}

describe('a canvas as it goes on', () => {
  it('begins at a keyframe, at nought, and keeps the window’s own spacing', () => {
    const timeline = newTimeline(framesPerSecond)
    const delta = { kind: 'picture' as const, canvas: 'landscape' as const, lane: 0, bytes: live }
    expect(timeline.picture({ ...delta, isKey: false, atMicroseconds: 5e6 }, 900)).toEqual([])
    const pieces = sends(timeline, { now: 1000, from: 7000, milliseconds: 2000 })
    const times = pictures(pieces).map(({ atMilliseconds }) => atMilliseconds)
    times.forEach((time, index) => expect(time).toBeCloseTo(index * frame, 6))
    expectWhole(pieces)
  })

  it('has the standby scene at once where the window says that it goes, and another joins', () => {
    const timeline = withStandby()
    const before = sends(timeline, { now: 0, from: 0, milliseconds: 2000 })
    timeline.left()
    const away = ticks(timeline, 2000, 2100)
    expect(pictures(away)[0]!.bytes).toEqual(still[0])
    const after = sends(timeline, { now: 2100, from: 90_000, milliseconds: 1000 })
    expect(timeline.isStandby).toBe(false)
    expectWhole([...before, ...away, ...after])
  })

  it('has the standby scene within a second of the last picture, and silence with it', () => {
    const timeline = withStandby()
    const before = sends(timeline, { now: 0, from: 0, milliseconds: 3000 })
    const away = ticks(timeline, 3000, 8000)
    const [first] = pictures(away)
    expect(first!.atMilliseconds - pictures(before).at(-1)!.atMilliseconds).toBeLessThan(1000)
    expect(first).toMatchObject({ isKey: true, bytes: still[0] })
    expect(timeline.isStandby).toBe(true)
    expect(pictures(away).length).toBeCloseTo((5 - standbyAfterMilliseconds / 1000) * 30, -1)
    // The still scene repeats from its keyframe.
    pictures(away).forEach(({ isKey, bytes }, index) => {
      expect(bytes).toEqual(still[index % 3])
      expect(isKey).toBe(index % 3 === 0)
    })
    for (const { bytes } of soundOf(away, 'live'))
      expect(bytes.every((byte) => byte === 0)).toBe(true)
    expectWhole([...before, ...away])
    const last = soundOf([...before, ...away], 'live').at(-1)!
    expect(last.atMilliseconds).toBeGreaterThan(7500)
  })

  it('goes over to a window that comes back at its first keyframe, whatever its clock says', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 20_000 }),
        fc.integer({ min: 0, max: 9000 }),
        (from, away) => {
          const timeline = withStandby()
          const pieces = sends(timeline, { now: 0, from: 500, milliseconds: 1500 })
          timeline.left()
          pieces.push(...ticks(timeline, 1500, 1500 + away))
          const back = sends(timeline, { now: 1500 + away, from, milliseconds: 1200 })
          expect(pictures(back)[0]).toMatchObject({ isKey: true, bytes: live })
          expect(timeline.isStandby).toBe(false)
          expectWhole([...pieces, ...back])
          const times = pictures([...pieces, ...back]).map(({ atMilliseconds }) => atMilliseconds)
          times.slice(1).forEach((time, index) => expect(time - times[index]!).toBeLessThan(1000))
        },
      ),
    )
  })

  it('stays dark where there is no standby scene, and joins anew all the same', () => {
    const timeline = newTimeline(framesPerSecond)
    const before = sends(timeline, { now: 0, from: 0, milliseconds: 500 })
    expect(ticks(timeline, 500, 4000)).toEqual([])
    expectWhole([...before, ...sends(timeline, { now: 4000, from: 4000, milliseconds: 500 })])
  })

  it('is not held up by sound that does not come', () => {
    const timeline = newTimeline(framesPerSecond)
    const pieces: OutPiece[] = []
    for (let index = 0; index < 90; index += 1)
      pieces.push(
        ...timeline.picture(
          {
            ...{ kind: 'picture', canvas: 'vertical', lane: 0, isKey: index === 0, bytes: live },
            atMicroseconds: index * frame * 1000,
          },
          index * frame,
        ),
      )
    expectWhole(pieces)
    expect(soundOf(pieces, 'archive').at(-1)!.atMilliseconds).toBeGreaterThan(2000)
  })
})
