import { useIntervalFn } from '@vueuse/core'
import { computed, onMounted, ref, shallowRef } from 'vue'
import { oneAtATime } from '~/api/oneAtATime'
import { wordsFor } from '~/api/problem'

const lookEveryMilliseconds = 700

interface Measured {
  measuring: { going: boolean; problem: string | null }
}

/** Measuring that goes on at the server: looked at while it does, whoever began it. */
export function useMeasuring<Known extends Measured>(look: () => Promise<Known>) {
  const known = shallowRef<Known>()
  const problem = ref('')
  const going = computed(() => known.value?.measuring.going ?? false)

  const { ask: lookAgain, askAfresh: lookAfresh } = oneAtATime(async () => {
    try {
      known.value = await look()
      if (!known.value.measuring.going) looking.pause()
      problem.value = known.value.measuring.problem ?? ''
    } catch (error) {
      problem.value = wordsFor(error)
    }
  })
  const looking = useIntervalFn(lookAgain, lookEveryMilliseconds, { immediate: false })

  /** Does something and looks what came of it. */
  async function attempt(action: () => Promise<void>): Promise<void> {
    problem.value = ''
    try {
      await action()
      await lookAfresh()
      if (going.value) looking.resume()
    } catch (error) {
      problem.value = wordsFor(error)
    }
  }

  onMounted(async () => {
    await lookAgain()
    // It may have been begun in another window.
    if (going.value) looking.resume()
  })
  return { known, going, problem, attempt }
}
