import {
  isWorthRunning,
  measuredSizes,
  type MeasuredBrowserRun,
  plannedBrowserRuns,
} from '@green-mantle/core/measured'
import { codecNames } from '@green-mantle/core/words'
import { expose } from 'comlink'
import { browserEncoders, runAtOnce } from '~/browserEncoders/encodeRuns'
import { movingPicture } from '~/browserEncoders/movingPicture'

export interface BrowserReport {
  doing: string
  done: number
  of: number
  runs: MeasuredBrowserRun[]
}

/** A graphics encoder that refuses none of these is said to set no limit. */
const maxSessionsTried = 12
const [large] = measuredSizes
let isStopped = false

/** How many encodes the graphics encoder takes at once before it refuses one; null where it refuses none. */
async function sessionsOf(
  runs: readonly MeasuredBrowserRun[],
  pictures: readonly VideoFrame[],
): Promise<number | null> {
  const run = runs.find(({ kind, width }) => kind === 'graphics' && width === large.width)
  if (!run) return null
  for (let atOnce = 2; atOnce <= maxSessionsTried && !isStopped; atOnce += 1)
    if ((await runAtOnce({ ...run, atOnce }, pictures)) === null) return atOnce - 1
  return null
}

const worker = {
  /** Runs every encoder that the browser opens; stopped early it gives what was run. */
  async measure(
    told: (report: BrowserReport) => void,
  ): Promise<{ runs: MeasuredBrowserRun[]; sessions: number | null }> {
    isStopped = false
    const planned = plannedBrowserRuns(await browserEncoders(large))
    const pictures = new Map(measuredSizes.map((size) => [size.width, movingPicture(size)]))
    const picturesOf = (width: number): VideoFrame[] => pictures.get(width as never) ?? []
    const runs: MeasuredBrowserRun[] = []
    try {
      for (const [index, run] of planned.entries()) {
        if (isStopped) break
        if (!isWorthRunning(run, runs)) continue
        const { kind, codec, effort, width, height, atOnce } = run
        told({
          doing: `${codecNames[codec]} on the ${kind === 'processor' ? 'processor' : 'graphics encoder'}, ${effort}, ${width}×${height}${atOnce > 1 ? `, ${atOnce} at once` : ''}`,
          ...{ done: index, of: planned.length, runs: [...runs] },
        })
        const framesPerSecond = await runAtOnce(run, picturesOf(width))
        if (framesPerSecond !== null) runs.push({ ...run, framesPerSecond })
      }
      return { runs, sessions: await sessionsOf(runs, picturesOf(large.width)) }
    } finally {
      for (const frame of [...pictures.values()].flat()) frame.close()
    }
  },
  stop(): void {
    isStopped = true
  },
}
export type BrowserEncodersWorker = typeof worker
expose(worker)
