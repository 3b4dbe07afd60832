import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { stretchesOf } from './stretches'
import { laneStates } from './trace'
import { runsOf } from '../../tests/tier'

describe('stretches of a lane', () => {
  it('hold every second that is not steady, and never more than can be told apart', () => {
    const states = fc.uint8Array({
      min: 0,
      max: laneStates.length - 1,
      minLength: 1,
      maxLength: 5000,
    })
    fc.assert(
      fc.property(states, (seconds) => {
        const stretches = stretchesOf(seconds)
        expect(stretches.length).toBeLessThanOrEqual(400)
        seconds.forEach((state, second) => {
          if (state === 0) return
          const at = (second + 0.5) / seconds.length
          const over = stretches.find(({ from, width }) => from <= at && at < from + width + 1e-9)
          expect(laneStates.indexOf(over!.state)).toBeGreaterThanOrEqual(state)
        })
      }),
      { numRuns: runsOf(40) },
    )
  })

  it('are exact in a short night, and joined where they are alike', () => {
    const gone = laneStates.indexOf('gone')
    expect(stretchesOf(Uint8Array.from([0, gone, gone, 0]))).toEqual([
      { from: 0.25, width: 0.5, state: 'gone' },
    ])
    expect(stretchesOf(new Uint8Array(7200))).toEqual([])
  })
})
