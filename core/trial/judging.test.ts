import { plannedDemoShow } from '@green-mantle/demo'
import { describe, expect, it } from 'vitest'
import { type ArrivedFrame, nothingArrived, reportOf, takeFrame } from '../arrival'
import { canvasEncodesOf } from '../encoding'
import { judgedSend, perSecondKbps, trialVerdict, wireInWords } from './judging'
import type { TrialProcess, TrialResult } from './trial'

const output = canvasEncodesOf(plannedDemoShow)
  .flatMap(({ encodes }) => encodes.flatMap(({ outputs }) => outputs))
  .find(({ feed, muxer }) => !feed.isRecording && muxer === 'flv')!
const { rendition } = output
const { framesPerSecond } = rendition

const asMade = (seconds: number): number => seconds

/** Ten seconds of a send that comes as it was planned, but for what is left out, and when it comes. */
function arrivedWithout(missing: readonly number[] = [], comesAt = asMade) {
  const arrival = nothingArrived()
  arrival.picture = {
    ...{ codec: rendition.codec, profile: 'High', level: '4.2' },
    ...{ width: rendition.width, height: rendition.height },
  }
  const bytes = (rendition.videoBitrateKbps * 125) / framesPerSecond
  for (let index = 0; index < 10 * framesPerSecond; index += 1) {
    if (missing.includes(index)) continue
    const seconds = index / framesPerSecond
    const frame: ArrivedFrame = {
      ...{ kind: 'video', bytes, isKey: index % (2 * framesPerSecond) === 0 },
      ...{ decodeSeconds: seconds, presentSeconds: seconds, atSeconds: 100 + comesAt(seconds) },
    }
    takeFrame(arrival, frame)
  }
  return judgedSend(plannedDemoShow, output, {
    arrival,
    report: reportOf(arrival, 110),
    wireBytes: 1_000_000,
    packets: null,
    likeness: { ssim: 0.97, comparedFrames: 15 },
  })
}

describe('what arrived of a send', () => {
  it('is held against what was planned', () => {
    const sent = arrivedWithout()
    expect(sent).toMatchObject({
      ...{ name: output.feed.name, plannedFramesPerSecond: framesPerSecond },
      ...{ longestWaitSeconds: 0, droppedSeconds: 0, wireBytes: 1_000_000 },
      picture: { ssim: 0.97, comparedFrames: 15 },
    })
    expect(sent.arrivedFramesPerSecond).toBeCloseTo(framesPerSecond, 0)
    expect(sent.arrivedKbps! / rendition.videoBitrateKbps).toBeCloseTo(1, 1)
    expect(sent.longestKeyframeSpacingSeconds).toBeCloseTo(2, 6)
    expect(arrivedWithout([50, 51, 52]).droppedSeconds).toBeCloseTo(3 / framesPerSecond, 6)
  })

  it('came no faster than it was made where the first frames waited, and slower where the encoder was late', () => {
    const waited = arrivedWithout([], (seconds) => Math.max(seconds, 0.6))
    expect(waited.arrivedFramesPerSecond).toBeCloseTo(framesPerSecond, 1)
    const late = arrivedWithout([], (seconds) => seconds * 1.25)
    expect(late.arrivedFramesPerSecond).toBeCloseTo(framesPerSecond / 1.25, 0)
  })

  it('is nothing where nothing came, in words', () => {
    const none = judgedSend(plannedDemoShow, output, {
      ...{ arrival: undefined, report: null, wireBytes: null, packets: null, likeness: null },
    })
    expect(none.findings).toEqual([{ kind: 'breach', words: 'Nothing of it arrived.' }])
    expect(none.arrivedWords).toBeNull()
  })

  it('is told second by second, an empty one among them', () => {
    const frame = (atSeconds: number, bytes: number): ArrivedFrame => ({
      ...{ kind: 'video', isKey: false, decodeSeconds: 0, presentSeconds: 0 },
      ...{ atSeconds, bytes },
    })
    expect(perSecondKbps([frame(5, 1000), frame(5.9, 1000), frame(7.5, 500)])).toEqual([16, 0, 4])
    expect(perSecondKbps([])).toEqual([])
  })
})

describe('the verdict of a trial', () => {
  const kept: TrialProcess = {
    ...{ canvas: 'landscape', encodes: [], speed: 1, droppedFrames: 0, problem: '' },
    ...{ processorShare: 0.5, pictureShare: 0.1, plannedShare: 0.4 },
  }
  const tried = (changes: Partial<TrialResult>) =>
    trialVerdict({
      processes: [kept],
      sends: [arrivedWithout()],
      line: null,
      ownHost: null,
      ...changes,
    })
  const fine = { ...arrivedWithout(), findings: [] }

  it('says the gravest first', () => {
    const slow = { ...kept, speed: 0.5 }
    const breach = { ...fine, findings: [{ kind: 'breach' as const, words: '' }] }
    expect(tried({ processes: [{ ...slow, problem: 'gone' }], sends: [breach] }).sentence).toBe(
      'The landscape canvas was not sent',
    )
    expect(tried({ processes: [slow], sends: [breach] }).sentence).toBe(
      'This computer makes 50 % of the landscape canvas in time',
    )
    expect(tried({ sends: [breach] })).toEqual({
      state: 'fails',
      sentence: `${fine.name} is sent what its rules refuse`,
    })
    const differs = { ...fine, findings: [{ kind: 'differs' as const, words: '' }] }
    expect(tried({ sends: [fine, differs] }).state).toBe('attention')
    expect(tried({ sends: [fine] }).state).toBe('fits')
    expect(tried({ sends: [fine], line: 'Cable' }).sentence).toContain('on that line')
    expect(tried({ sends: [fine], ownHost: 'den.example' }).sentence).toContain('your own host')
  })
})

it('bytes on the wire are said as a rate, with how far off the sum was', () => {
  const counted = { wireBytes: 1_020_000, computedWireBytes: 1_000_000, arrivedKbps: 5000 }
  expect(wireInWords(counted)).toBe('5,100 kb/s, 2.0 % above the sum')
  expect(wireInWords({ ...counted, wireBytes: 990_000 })).toBe('4,950 kb/s, 1.0 % below the sum')
  expect(wireInWords({ ...counted, wireBytes: null })).toBeNull()
})
