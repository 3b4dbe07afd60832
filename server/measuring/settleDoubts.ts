import { type CodecEffort, type EncodingRun, implausibleEfforts } from '@green-mantle/core/measured'
import type { Throughput } from '@green-mantle/core/show'

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
