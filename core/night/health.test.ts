import { describe, expect, it } from 'vitest'
import { healthInWords, type SendHealth } from './health'

const well: SendHealth = {
  ...{
    stage: 'sending',
    words: '',
    kbps: 4740,
    plannedKbps: 4800,
    behindSeconds: 0,
    stillSeconds: 0,
  },
  ...{ sentFrames: 42_180, lostFrames: 0 },
}
const health = (
  changes: Partial<SendHealth>,
  { others = [], encoderSpeed = 1 }: { others?: SendHealth[]; encoderSpeed?: number | null } = {},
) => healthInWords({ ...well, ...changes }, { others, encoderSpeed })

describe('whose fault it is', () => {
  it('is nobody’s while all is well, and nothing is to be done', () => {
    expect(health({})).toEqual({ tone: 'well', words: 'steady, 4,740 kb/s', blame: null, todo: [] })
    expect(health({}, { encoderSpeed: null }).tone).toBe('well')
    // Common practice, no published source: a fraction of a percent goes unseen.
    expect(health({ lostFrames: 100 }).tone).toBe('well')
    expect(health({ lostFrames: 500 }).tone).toBe('attention')
  })

  // Common practice, no published source: dropped frames with room on the line: look at the computer.
  it('is the computer’s where an encoder is slower than real time, whatever is behind', () => {
    expect(health({ behindSeconds: 3 }, { encoderSpeed: 0.8 }).blame).toBe('computer')
  })

  it('is the line’s where several are behind, the destination’s where one alone is', () => {
    const behind = { ...well, behindSeconds: 2 }
    expect(health({ behindSeconds: 2 }, { others: [behind, well] }).blame).toBe('line')
    expect(health({ behindSeconds: 2 }, { others: [well, well] }).blame).toBe('destination')
    expect(health({ behindSeconds: 2 }).blame).toBe('line')
  })

  it('of one that is away is the line’s only where another is away too', () => {
    const away = { stage: 'away', words: 'it hung up' } as const
    expect(health(away, { others: [well] })).toMatchObject({ tone: 'fails', blame: 'destination' })
    expect(health(away, { others: [{ ...well, ...away }] }).blame).toBe('line')
    expect(health({ stage: 'given up', words: 'refused' }).words).toBe('given up: refused')
  })
})
