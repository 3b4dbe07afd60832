import type { Listening, OpenMinutes } from '@green-mantle/core/arrival'
import { rehearsalKey } from '@green-mantle/core/rehearsal'
import { useIntervalFn } from '@vueuse/core'
import { computed, onMounted, ref, shallowRef } from 'vue'
import { oneAtATime } from '~/api/oneAtATime'
import { wordsFor } from '~/api/problem'
import {
  beginListening,
  beginTrial,
  closeListening,
  endListening,
  fetchListening,
  fetchTrial,
  openListening,
  stopTrial,
  type TrialAnswer,
  type TrialChoices,
} from '~/api/trial'
import { useShowStore } from '~/stores/show'

const lookEveryMilliseconds = 1000

/** Running the plan of the open show for real, and listening to what is sent. */
export function useTrial() {
  const store = useShowStore()
  const trial = shallowRef<TrialAnswer>()
  const listening = shallowRef<Listening | null>(null)
  const problem = ref('')
  const isGoing = computed(() => trial.value?.state?.going ?? false)
  const result = computed(() => trial.value?.result ?? null)
  const isOfThisPlan = computed(() => result.value?.planKey === rehearsalKey(store.show))

  const { ask: look, askAfresh: lookAfresh } = oneAtATime(async () => {
    const { id } = store
    if (!id) return
    try {
      const [answer, heard] = await Promise.all([fetchTrial(id), fetchListening(id)])
      trial.value = answer
      listening.value = heard
      if (answer.state?.problem) problem.value = answer.state.problem
    } catch (error) {
      problem.value = wordsFor(error)
    }
  })
  // Only what is looked at is asked for: the page's timer ends with it.
  useIntervalFn(() => {
    if (isGoing.value || listening.value) void look()
  }, lookEveryMilliseconds)
  onMounted(look)

  async function attempt(action: (id: string) => Promise<void>): Promise<void> {
    problem.value = ''
    try {
      if (store.id) await action(store.id)
    } catch (error) {
      problem.value = wordsFor(error)
    }
    await lookAfresh()
  }
  /** What is sent is what is saved, so that goes first. */
  const saved = async (): Promise<void> => {
    await store.save()
    await store.untilSettled()
    if (store.isUnsaved)
      throw new Error('The show is not saved yet, and what is sent is what is saved.')
  }
  return {
    trial,
    listening,
    problem,
    isGoing,
    result,
    isOfThisPlan,
    begin: (options: TrialChoices) =>
      attempt(async (id) => {
        await saved()
        await beginTrial(id, options)
      }),
    stop: () => attempt(stopTrial),
    listen: () =>
      attempt(async (id) => {
        await saved()
        await beginListening(id)
      }),
    endListening: () => attempt(endListening),
    openToNetwork: (minutes: OpenMinutes) => attempt((id) => openListening(id, minutes)),
    closeToNetwork: () => attempt(closeListening),
  }
}
