import { browserComputer } from '@green-mantle/core/measured'
import type { Computer } from '@green-mantle/core/show'
import { proxy } from 'comlink'
import { onScopeDispose, ref, shallowRef, watch } from 'vue'
import { browserName, rememberBrowserMachine, useMeasuredText } from '~/browserEncoders/machine'
import type { BrowserReport } from '~/workers/browserEncoders.worker'
import { newBrowserEncodersWorker, readingWorker } from '~/workers/workers'

/** Why this browser's encoders cannot be measured; empty where they can. */
const missingWords = (): string => {
  if ('VideoEncoder' in globalThis) return ''
  return globalThis.isSecureContext
    ? 'This browser lets no page use its encoders.'
    : 'A browser lets pages use its encoders only over HTTPS, or on the machine that runs the application.'
}

/** The machine that this browser runs on: what is known of its encoders, and measuring them. */
export function useBrowserComputer() {
  const text = useMeasuredText()
  const computer = shallowRef<Computer | null>(null)
  const report = shallowRef<Omit<BrowserReport, 'runs'> | null>(null)
  const going = ref(false)
  const problem = ref('')
  let worker: ReturnType<typeof newBrowserEncodersWorker> | undefined

  watch(
    text,
    async (now) => (computer.value = now === '' ? null : await readingWorker().readComputer(now)),
    { immediate: true },
  )

  async function measure(): Promise<void> {
    if (going.value) return
    going.value = true
    problem.value = ''
    const own = newBrowserEncodersWorker()
    worker = own
    try {
      const measured = await own.remote.measure(
        proxy(({ doing, done, of }: BrowserReport) => (report.value = { doing, done, of })),
      )
      if (measured.runs.length === 0)
        problem.value = 'None of its encoders made a picture; nothing was changed.'
      else
        text.value = JSON.stringify(
          browserComputer(measured.runs, {
            id: rememberBrowserMachine(),
            browser: browserName(),
            threads: navigator.hardwareConcurrency,
            at: new Date().toISOString(),
            sessions: measured.sessions,
          }),
        )
    } catch (error) {
      problem.value = (error as Error).message
    } finally {
      own.end()
      worker = undefined
      going.value = false
      report.value = null
    }
  }
  /** What was run by then is kept. */
  const stop = (): void => void worker?.remote.stop()
  onScopeDispose(() => worker?.end())

  return { computer, report, going, problem, missing: missingWords(), measure, stop }
}
