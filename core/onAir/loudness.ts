/** A filter of second order: what comes in and what went out, twice back (ITU-R BT.1770-5, annex 1). */
interface Biquad {
  b: readonly [number, number, number]
  a: readonly [number, number]
}

/** The K-weighting at 48 kHz, as annex 1 tables it: the head as a sphere, then what is too low to be heard. */
const weighting: readonly Biquad[] = [
  {
    b: [1.53512485958697, -2.69169618940638, 1.19839281085285],
    a: [-1.69065929318241, 0.73248077421585],
  },
  { b: [1, -2, 1], a: [-1.99004745483398, 0.99007225036621] },
]
const loudnessSampleRateHz = 48_000

/** Loudness of a mean square of both channels, in LUFS; −Infinity of silence. */
const loudnessOf = (meanSquare: number): number => -0.691 + 10 * Math.log10(meanSquare)

/** Blocks of 400 ms that overlap by 75 % (annex 1): each is made of four steps. */
const stepSamples = loudnessSampleRateHz / 10
const windows = { momentary: 4, shortTerm: 30 } as const
const gate = { absoluteLufs: -70, relativeLu: -10 } as const

function newFilter(): (value: number) => number {
  const states = weighting.map(() => ({ x1: 0, x2: 0, y1: 0, y2: 0 }))
  return (value) => {
    let x = value
    weighting.forEach(({ b, a }, index) => {
      const state = states[index] as (typeof states)[number]
      const y = b[0] * x + b[1] * state.x1 + b[2] * state.x2 - a[0] * state.y1 - a[1] * state.y2
      Object.assign(state, { x1: x, x2: state.x1, y1: y, y2: state.y1 })
      x = y
    })
    return x
  }
}

const meanOf = (values: readonly number[]): number =>
  values.length === 0 ? 0 : values.reduce((sum, value) => sum + value, 0) / values.length

export interface Loudness {
  /** Over the last 400 ms, in LUFS. */
  momentary: number
  /** Over the last 3 s. */
  shortTerm: number
  /** Since it began, what is quiet left out. */
  integrated: number
}

/** Loudness of a pair of channels at 48 kHz (ITU-R BT.1770-5; windows by EBU Tech 3341). */
export function newLoudness(): {
  take: (left: number, right: number) => void
  loudness: () => Loudness
} {
  const filters = [newFilter(), newFilter()] as const
  let [sum, count] = [0, 0]
  /** The mean square of each step of 100 ms, the last 30 of them. */
  let steps: number[] = []
  /** Blocks over the absolute gate, by tenths of a decibel: an evening takes no more memory than a minute. */
  const blocks = new Map<number, { count: number; sum: number }>()

  function endStep(): void {
    steps = [...steps.slice(1 - windows.shortTerm), sum / stepSamples]
    ;[sum, count] = [0, 0]
    if (steps.length < windows.momentary) return
    const meanSquare = meanOf(steps.slice(-windows.momentary))
    if (!(loudnessOf(meanSquare) > gate.absoluteLufs)) return
    const place = Math.round(10 * loudnessOf(meanSquare))
    const known = blocks.get(place) ?? { count: 0, sum: 0 }
    blocks.set(place, { count: known.count + 1, sum: known.sum + meanSquare })
  }

  function integrated(): number {
    const over = (lufs: number): number => {
      const kept = [...blocks.entries()].filter(([place]) => place / 10 > lufs)
      const all = kept.reduce((total, [, each]) => total + each.count, 0)
      return kept.reduce((total, [, each]) => total + each.sum, 0) / all
    }
    const first = over(gate.absoluteLufs)
    return Number.isNaN(first) ? -Infinity : loudnessOf(over(loudnessOf(first) + gate.relativeLu))
  }

  return {
    take(left, right) {
      sum += filters[0](left) ** 2 + filters[1](right) ** 2
      count += 1
      if (count === stepSamples) endStep()
    },
    loudness: () => ({
      momentary: loudnessOf(meanOf(steps.slice(-windows.momentary))),
      shortTerm: loudnessOf(meanOf(steps)),
      integrated: integrated(),
    }),
  }
}
