import { loadCorrection, withLoadCorrected } from '../measured'
import { lineOf, type LineSample, maxLineSamples, type Show, withLine } from '../show'
import type { WrapUp } from './wrapUp'

/** What a night taught of the line and the computer, for the next one. */
export interface Learnt {
  /** What the line carried where it was short: then, and only then, that is what it could. */
  samples: Omit<LineSample, 'id'>[]
  /** How many times what was planned the encodes took of the processor; null where that agrees or is not known. */
  loadFactor: number | null
}

/** Of a shorter run what it took to begin is too much. */
export const minEncodedSeconds = 30

/** What can be learnt from a night that was sent from here. */
export function learntOf(show: Show, { line, encoded }: Pick<WrapUp, 'line' | 'encoded'>): Learnt {
  const { medium, samples } = lineOf(show)
  return {
    samples: line
      .flatMap(({ shortages }) => shortages)
      .map(({ startedAt, seconds, carriedKbps }) => ({
        measuredAt: startedAt,
        uploadKbps: Math.round(carriedKbps),
        medium: medium ?? samples.at(-1)?.medium ?? 'cable',
        roundTripMilliseconds: null,
        lossPercent: null,
        retransmits: null,
        note: `on the night, ${Math.round(seconds)} s in which the line was short`,
      })),
    loadFactor: loadCorrection(encoded.filter(({ seconds }) => seconds >= minEncodedSeconds)),
  }
}

/** A show with what was learnt taken over. */
export function withLearnt(
  show: Show,
  { samples, loadFactor }: Learnt,
  makeId: () => string,
): Show {
  const measured = withLine(show, (line) => ({
    ...line,
    samples: [...line.samples, ...samples.map((sample) => ({ ...sample, id: makeId() }))].slice(
      -maxLineSamples,
    ),
  }))
  return loadFactor === null
    ? measured
    : { ...measured, computer: withLoadCorrected(show.computer, loadFactor) }
}
