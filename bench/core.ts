import { lineOf } from '@green-mantle/core/show'
import { verdictOf } from '@green-mantle/core/fit'
import { pictureScore } from '@green-mantle/core/media'
import { wireRateKbps } from '@green-mantle/core/network'
import { demoShow } from '@green-mantle/demo'
import type { Area } from './figure'

const runMilliseconds = 400

/** How often a piece of work is done in a second, the best of five runs; its results are summed so that none is skipped. */
function perSecond(work: (turn: number) => number): number {
  let best = 0
  let sum = 0
  for (let run = 0; run < 5; run += 1) {
    const start = performance.now()
    let count = 0
    while (performance.now() - start < runMilliseconds)
      for (let turn = 0; turn < 200; turn += 1, count += 1) sum += work(count)
    best = Math.max(best, (count * 1000) / (performance.now() - start))
  }
  if (!Number.isFinite(sum)) throw new Error('The work went wrong')
  return best
}

/** The sums that every edit runs, in evaluations a second, and in calls of Math.exp of the same run. */
const area: Area = () => {
  const [rendition] = demoShow.destinations[0]!.renditions
  const at = (turn: number) => ({ ...rendition!, videoBitrateKbps: 500 + (turn % 190) * 50 })
  const exponentials = perSecond((turn) => Math.exp(-(turn % 100) / 10))
  const works = {
    wire_rate: (turn: number) => wireRateKbps(at(turn), 'srt'),
    picture_score: (turn: number) => pictureScore(at(turn), 'hands', 'desk'),
    verdict: (turn: number) =>
      verdictOf({
        ...demoShow,
        lines: [{ ...lineOf(demoShow), headroomPercent: turn % 70 }],
      }).budget.spareKbps,
  }
  return Promise.resolve(
    Object.entries(works).flatMap(([name, work]) => {
      const rate = perSecond(work)
      return [
        { name, value: rate, unit: 'evaluations/s' },
        { name: `${name}_cost`, value: exponentials / rate, unit: 'exp-calls' },
      ]
    }),
  )
}
export default area
