import { type Codec, efforts, type Throughput } from '../show'
import { measuredSizes } from './passes'

/** An effort of a codec. */
export type CodecEffort = Pick<Throughput, 'codec' | 'effort'>

/** More effort takes longer; what says otherwise by less than this factor is chance. */
const orderTolerance = 1.3
/** From one effort to the next no encoder in use slows down by more than this factor; working value. */
const widestStep = 10

const frameSeconds = ({ megapixelsPerSecond, millisecondsAFrame = 0 }: Throughput): number => {
  const [{ width, height }] = measuredSizes
  return (width * height) / 1e6 / megapixelsPerSecond + millisecondsAFrame / 1000
}

/**
 * The efforts whose speeds cannot both be right, as when the computer was busy with something else while
 * one of them was measured: a slower effort that is clearly faster, or a step that no encoder makes.
 */
export function implausibleEfforts(throughputs: readonly Throughput[]): CodecEffort[] {
  const found = new Map<string, CodecEffort>()
  const doubt = ({ codec, effort }: CodecEffort): void =>
    void found.set(`${codec} ${effort}`, { codec, effort })
  for (const codec of new Set(throughputs.map((each) => each.codec))) {
    const own = efforts.flatMap((effort) =>
      throughputs.filter((each) => each.codec === codec && each.effort === effort),
    )
    own.forEach((faster, place) => {
      own.slice(place + 1).forEach((slower, steps) => {
        const factor = frameSeconds(slower) / frameSeconds(faster)
        const isPossible = factor > 1 / orderTolerance && (steps > 0 || factor < widestStep)
        if (isPossible) return
        doubt(faster)
        doubt(slower)
      })
    })
  }
  return [...found.values()]
}

/** Throughputs without the codecs of which something cannot be right. */
export function withoutDoubtful(
  throughputs: readonly Throughput[],
  doubtful: readonly CodecEffort[],
): Throughput[] {
  const codecs = new Set<Codec>(doubtful.map(({ codec }) => codec))
  return throughputs.filter(({ codec }) => !codecs.has(codec))
}
