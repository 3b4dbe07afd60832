import { type CodecEffort, type EncodingRun, implausibleEfforts } from '@green-mantle/core/measured'
import type { Throughput } from '@green-mantle/core/show'
import { codecNames, listInWords } from '@green-mantle/core/words'

/** So often what cannot be right is measured anew before it is given up. */
const mostRounds = 2

export interface Settled {
  runs: EncodingRun[]
  /** What still cannot be right. */
  doubtful: CodecEffort[]
}

/**
 * Measures again whatever cannot be right beside the rest. What was seen of it before is forgotten: on a
 * busy computer a look may be far too fast as well as too slow.
 */
export async function settleDoubts(
  runs: readonly EncodingRun[],
  throughputsOf: (runs: readonly EncodingRun[]) => Throughput[],
  again: (doubtful: readonly CodecEffort[]) => Promise<EncodingRun[]>,
): Promise<Settled> {
  let known = [...runs]
  for (let round = 0; ; round += 1) {
    const doubtful = implausibleEfforts(throughputsOf(known))
    if (doubtful.length === 0 || round === mostRounds) return { runs: known, doubtful }
    const isDoubtful = (run: EncodingRun): boolean =>
      run.atOnce === 1 &&
      doubtful.some(({ codec, effort }) => run.codec === codec && run.effort === effort)
    const seen = await again(doubtful)
    // Stopped before there was another look: what there is has to do.
    if (seen.length === 0) return { runs: known, doubtful }
    known = [...known.filter((run) => !isDoubtful(run)), ...seen]
  }
}

/** What was left out and why, in words; null where nothing was. */
export function doubtInWords(doubtful: readonly CodecEffort[]): string | null {
  if (doubtful.length === 0) return null
  const named = [...new Set(doubtful.map(({ codec }) => codec))].map((codec) => {
    const own = doubtful.filter((each) => each.codec === codec)
    return `${codecNames[codec]} at ${listInWords(own.map(({ effort }) => effort))}`
  })
  return `The speeds of ${listInWords(named)} cannot all be right, measured again too: this computer was busy with something else. What is left out here has to be measured again when nothing runs beside it.`
}
