import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { ceilingDecibels, newLimiter } from './limiter'
import { newLoudness } from './loudness'
import { casesOf } from '../../tests/tier'

const rate = 48_000
interface Tone {
  decibels: number
  seconds: number
}
/** A sine of 1 kHz in both channels, at one level after the other. */
function* tones(parts: readonly Tone[], hertz = 1000): Generator<number> {
  let index = 0
  for (const { decibels, seconds } of parts)
    for (let count = 0; count < seconds * rate; count += 1) {
      yield 10 ** (decibels / 20) * Math.sin((2 * Math.PI * hertz * index) / rate)
      index += 1
    }
}
function measured(parts: readonly Tone[]) {
  const meter = newLoudness()
  for (const value of tones(parts)) meter.take(value, value)
  return meter.loudness()
}

/** The signals of EBU Tech 3341 (2023), table 1, made by their formula; wanted within 0.1 LU. */
describe('loudness by ITU-R BT.1770', () => {
  const steady = [
    ['case 1', [{ decibels: -23, seconds: 20 }], -23],
    ['case 2', [{ decibels: -33, seconds: 20 }], -33],
  ] as const
  it.each(casesOf(steady, ([name]) => name === 'case 1'))(
    'of a steady tone is its level, in every window: %s',
    (_, parts, lufs) => {
      const { momentary, shortTerm, integrated } = measured(parts)
      for (const value of [momentary, shortTerm, integrated])
        expect(Math.abs(value - lufs)).toBeLessThan(0.1)
    },
  )

  const changing = [
    ['case 3', [-36, -23, -36], [10, 60, 10]],
    ['case 4', [-72, -36, -23, -36, -72], [10, 10, 60, 10, 10]],
    ['case 5', [-26, -20, -26], [20, 20.1, 20]],
  ] as const
  // The fourth has both kinds of quiet.
  it.each(casesOf(changing, ([name]) => name === 'case 4'))(
    'leaves out what is quiet, relatively and absolutely: %s',
    (_, levels, seconds) => {
      const parts = levels.map((decibels, index) => ({ decibels, seconds: seconds[index]! }))
      expect(Math.abs(measured(parts).integrated - -23)).toBeLessThan(0.1)
    },
  )

  it('of silence is none', () => {
    expect(measured([{ decibels: -Infinity, seconds: 1 }]).integrated).toBe(-Infinity)
  })
})

describe('the limiter', () => {
  const ceiling = 10 ** (ceilingDecibels / 20)

  it('lets nothing over the ceiling, whatever comes', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: -4, max: 4, noNaN: true }), { minLength: 50, maxLength: 2000 }),
        (samples) => {
          const limit = newLimiter(rate)
          for (const sample of [...samples, ...new Array<number>(300).fill(0)])
            for (const out of limit(sample, -sample / 2))
              expect(Math.abs(out)).toBeLessThanOrEqual(ceiling + 1e-9)
        },
      ),
    )
  })

  it('holds what stands between samples, where a sine of a quarter of the rate hides it', () => {
    const limit = newLimiter(rate)
    // At 45 degrees each sample is 3 dB under the peak (EBU Tech 3341, case 17, by formula).
    let largest = 0
    for (let index = 0; index < rate; index += 1) {
      const out = limit(1.2 * Math.sin((Math.PI / 2) * index + Math.PI / 4), 0)[0]!
      if (index > 1000) largest = Math.max(largest, Math.abs(out))
    }
    // The polynomial finds most of what is hidden.
    expect(20 * Math.log10(largest * Math.SQRT2)).toBeLessThan(ceilingDecibels + 1.5)
  })

  it('lets go of what it turned down', () => {
    const limit = newLimiter(rate)
    for (const sample of tones([{ decibels: 12, seconds: 0.5 }])) limit(sample, sample)
    const quiet = [...tones([{ decibels: -20, seconds: 1 }])]
    const outs = quiet.map((sample) => limit(sample, sample)[0]!)
    const loudest = (samples: readonly number[]): number =>
      Math.max(...samples.slice(-480).map(Math.abs))
    expect(loudest(outs)).toBeCloseTo(loudest(quiet), 4)
  })

  it('leaves what is under the ceiling as it is, five milliseconds later', () => {
    const limit = newLimiter(rate)
    const samples = [...tones([{ decibels: -6, seconds: 0.1 }])]
    const outs = samples.map((sample) => limit(sample, sample)[0]!)
    expect(outs.slice(240)).toEqual(samples.slice(0, -240))
  })
})
