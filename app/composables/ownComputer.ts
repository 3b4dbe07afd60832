import type { MeasuringPass } from '@green-mantle/core/measured'
import { useIntervalFn } from '@vueuse/core'
import { computed, onMounted, ref, shallowRef } from 'vue'
import {
  beginMeasuringComputer,
  fetchOwnComputer,
  type OwnComputer,
  stopMeasuringComputer,
} from '~/api/computer'
import { wordsFor } from '~/api/problem'

const lookEveryMilliseconds = 700

/** The computer that the application runs on: what is known of it, and measuring it. */
export function useOwnComputer() {
  const own = shallowRef<OwnComputer>()
  const problem = ref('')
  const going = computed(() => own.value?.measuring.going ?? false)

  async function look(): Promise<void> {
    try {
      own.value = await fetchOwnComputer()
      if (!own.value.measuring.going) looking.pause()
      problem.value = own.value.measuring.problem ?? ''
    } catch (error) {
      problem.value = wordsFor(error)
    }
  }
  const looking = useIntervalFn(look, lookEveryMilliseconds, { immediate: false })

  async function attempt(action: () => Promise<void>): Promise<void> {
    problem.value = ''
    try {
      await action()
      await look()
    } catch (error) {
      problem.value = wordsFor(error)
    }
  }
  const measure = (pass: MeasuringPass): Promise<void> =>
    attempt(async () => {
      await beginMeasuringComputer(pass)
      looking.resume()
    })
  const stop = (): Promise<void> => attempt(stopMeasuringComputer)

  onMounted(async () => {
    await look()
    // It may have been begun in another window.
    if (going.value) looking.resume()
  })
  return { own, going, problem, measure, stop }
}
