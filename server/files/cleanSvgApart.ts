import { Worker } from 'node:worker_threads'
import type { cleanSvg } from '@green-mantle/core/svg'
import code from './cleanSvgWorker.bundled'

type Cleaned = ReturnType<typeof cleanSvg>

/** An SVG of the largest size there may be takes a fraction of this. */
const deadlineMilliseconds = 5000
const maxMegabytes = 256

const notTaken: Cleaned = { ok: false, message: 'It takes too long to look through' }

/** Cleans an SVG in a thread of its own, for a limited time and in limited memory. */
export function cleanSvgApart(
  svg: string,
  { milliseconds = deadlineMilliseconds } = {},
): Promise<Cleaned> {
  return new Promise((resolve) => {
    const worker = new Worker(code, {
      eval: true,
      workerData: svg,
      resourceLimits: { maxOldGenerationSizeMb: maxMegabytes },
    })
    const settle = (cleaned: Cleaned): void => {
      clearTimeout(deadline)
      void worker.terminate()
      resolve(cleaned)
    }
    const deadline = setTimeout(() => settle(notTaken), milliseconds)
    worker.once('message', settle)
    worker.once('error', (error) => {
      console.error('An SVG could not be cleaned:', error)
      settle(notTaken)
    })
    worker.once('exit', () => settle(notTaken))
  })
}
