/** A filter of second order: what comes in and what went out, twice back (ITU-R BT.1770-5, annex 1). */
interface Biquad {
  b: readonly [number, number, number]
  a: readonly [number, number]
}

/** The K-weighting at 48 kHz, as annex 1 tables it: the head as a sphere, then what is too low to be heard. */
const weighting: Readonly<Record<'head' | 'low', Biquad>> = {
  head: {
    b: [1.53512485958697, -2.69169618940638, 1.19839281085285],
    a: [-1.69065929318241, 0.73248077421585],
  },
  low: { b: [1, -2, 1], a: [-1.99004745483398, 0.99007225036621] },
}
const loudnessSampleRateHz = 48_000

/** Loudness of a mean square of both channels, in LUFS; −Infinity of silence. */
const loudnessOf = (meanSquare: number): number => -0.691 + 10 * Math.log10(meanSquare)

/** Blocks of 400 ms that overlap by 75 % (annex 1): each is made of four steps. */
const stepSamples = loudnessSampleRateHz / 10
const windows = { momentary: 4, shortTerm: 30 } as const
const gate = { absoluteLufs: -70, relativeLu: -10 } as const

/** Under this a filter's state is nothing to hear, and processors take long for the smallest numbers there are. */
const nothing = 1e-30
const settled = (value: number): number => (Math.abs(value) < nothing ? 0 : value)

function newSection({ b: [b0, b1, b2], a: [a1, a2] }: Biquad) {
  // The last two that came in, and the last two that went out.
  const state = { x1: 0, x2: 0, y1: 0, y2: 0 }
  return {
    filter(x: number): number {
      const y = b0 * x + b1 * state.x1 + b2 * state.x2 - a1 * state.y1 - a2 * state.y2
      state.x2 = state.x1
      state.x1 = x
      state.y2 = state.y1
      state.y1 = y
      return y
    },
    settle(): void {
      state.y1 = settled(state.y1)
      state.y2 = settled(state.y2)
    },
  }
}

function newFilter() {
  const [head, low] = [newSection(weighting.head), newSection(weighting.low)]
  return {
    filter: (value: number): number => low.filter(head.filter(value)),
    settle(): void {
      head.settle()
      low.settle()
    },
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
    for (const each of filters) each.settle()
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
      const first = filters[0].filter(left)
      const second = filters[1].filter(right)
      sum += first * first + second * second
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
