import { describe, expect, it } from 'vitest'
import { type Effort, efforts, type Throughput } from '../show'
import { implausibleEfforts, withoutDoubtful } from './plausible'

const speeds = (values: Partial<Record<Effort, number>>, codec: Throughput['codec'] = 'h264') =>
  efforts.flatMap((effort): Throughput[] =>
    values[effort] === undefined ? [] : [{ codec, effort, megapixelsPerSecond: values[effort] }],
  )

describe('speeds of encoders', () => {
  it('go down with effort, chance aside', () => {
    const right = speeds({ fastest: 400, brisk: 260, balanced: 160, fine: 90, finest: 40 })
    expect(implausibleEfforts(right)).toEqual([])
    expect(implausibleEfforts(speeds({ fastest: 400, brisk: 440 }))).toEqual([])
    expect(implausibleEfforts([])).toEqual([])
  })

  it('cannot go up by much, whatever lies between, nor fall off a cliff', () => {
    const named = (of: Throughput[]) => implausibleEfforts(of).map(({ effort }) => effort)
    expect(named(speeds({ fastest: 100, fine: 400 }))).toEqual(['fastest', 'fine'])
    expect(named(speeds({ fastest: 400, brisk: 20 }))).toEqual(['fastest', 'brisk'])
    // A fixed cost a frame counts as well.
    const slow: Throughput = {
      ...{ codec: 'h264', effort: 'fastest', megapixelsPerSecond: 1000, millisecondsAFrame: 30 },
    }
    expect(named([slow, ...speeds({ brisk: 300 })])).toEqual(['fastest', 'brisk'])
  })

  it('are left out by the codec', () => {
    const known = [...speeds({ fastest: 100, fine: 400 }), ...speeds({ fastest: 50 }, 'av1')]
    const doubtful = implausibleEfforts(known)
    expect(withoutDoubtful(known, doubtful).map(({ codec }) => codec)).toEqual(['av1'])
  })
})
