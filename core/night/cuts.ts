import type { NightState } from './nightState'

/** A piece of a recording that holds a stretch which was marked. */
export interface Cut {
  file: string
  /** The mark's name; empty where it has none. */
  name: string
  /** In the recording. */
  fromSeconds: number
  lengthSeconds: number
}

/** Nobody records more in a night, nor cuts more out of it; a log may hold anything. */
const [maxRecordings, maxCuts] = [50, 500]
/** Shorter than this nothing is to be seen. */
const minSeconds = 0.5

/** What of each recording holds each stretch that was marked, as far as it was recorded; moments have no length. */
export function cutsOf({ marks, events }: Pick<NightState, 'marks' | 'events'>): Cut[] {
  const recordings = events
    .flatMap(({ happening }) =>
      happening.kind === 'recorded' &&
      happening.seconds !== null &&
      happening.startedAt !== undefined
        ? [{ ...happening, seconds: happening.seconds, startedAt: Date.parse(happening.startedAt) }]
        : [],
    )
    .slice(-maxRecordings)
  const cuts = marks.flatMap(({ name, from, until }) =>
    recordings.flatMap(({ file, seconds, startedAt }): Cut[] => {
      const begin = Math.max(0, (Date.parse(from) - startedAt) / 1000)
      const end = Math.min(seconds, (Date.parse(until) - startedAt) / 1000)
      const isLong = end - begin >= minSeconds && until > from
      return isLong ? [{ file, name, fromSeconds: begin, lengthSeconds: end - begin }] : []
    }),
  )
  return cuts.slice(-maxCuts)
}
