import { type Remote, wrap } from 'comlink'
import type { BrowserEncodersWorker } from './browserEncoders.worker'
import type { KeyingWorker } from './keying.worker'
import type { MatchingWorker } from './matching.worker'
import type { OnAirWorker } from './onAir.worker'
import type { PlannerWorker } from './planner.worker'
import type { ReadingWorker } from './reading.worker'
import type { RehearsalWorker } from './rehearsal.worker'

/** Started when first needed, one of each. */
let keying: Remote<KeyingWorker> | undefined
let matching: Remote<MatchingWorker> | undefined
let planner: Remote<PlannerWorker> | undefined
let reading: Remote<ReadingWorker> | undefined

export const keyingWorker = (): Remote<KeyingWorker> =>
  (keying ??= wrap<KeyingWorker>(
    new Worker(new URL('./keying.worker.ts', import.meta.url), { type: 'module' }),
  ))

export const matchingWorker = (): Remote<MatchingWorker> =>
  (matching ??= wrap<MatchingWorker>(
    new Worker(new URL('./matching.worker.ts', import.meta.url), { type: 'module' }),
  ))

export const plannerWorker = (): Remote<PlannerWorker> =>
  (planner ??= wrap<PlannerWorker>(
    new Worker(new URL('./planner.worker.ts', import.meta.url), { type: 'module' }),
  ))

export const readingWorker = (): Remote<ReadingWorker> =>
  (reading ??= wrap<ReadingWorker>(
    new Worker(new URL('./reading.worker.ts', import.meta.url), { type: 'module' }),
  ))

/** Several, since nights are run beside each other; made and ended by who runs them. */
export function newRehearsalWorker(): { remote: Remote<RehearsalWorker>; end(): void } {
  const worker = new Worker(new URL('./rehearsal.worker.ts', import.meta.url), { type: 'module' })
  return { remote: wrap<RehearsalWorker>(worker), end: () => worker.terminate() }
}

/** Made for one measurement and ended after it, with every encoder that it opened. */
export function newBrowserEncodersWorker(): { remote: Remote<BrowserEncodersWorker>; end(): void } {
  const worker = new Worker(new URL('./browserEncoders.worker.ts', import.meta.url), {
    type: 'module',
  })
  return { remote: wrap<BrowserEncodersWorker>(worker), end: () => worker.terminate() }
}

/** The one that draws what goes out; ended with its window. */
export function newOnAirWorker(): { remote: Remote<OnAirWorker>; end(): void } {
  const worker = new Worker(new URL('./onAir.worker.ts', import.meta.url), { type: 'module' })
  return { remote: wrap<OnAirWorker>(worker), end: () => worker.terminate() }
}
