import type { NextStep } from '@green-mantle/core/plan'
import { watchDebounced } from '@vueuse/core'
import { type Ref, shallowRef } from 'vue'
import { usePlannerStore } from '~/stores/planner'
import { useShowStore } from '~/stores/show'

/** Not while something is being dragged. */
const afterMilliseconds = 400

/** The next step up of a destination, found anew when its show has come to rest; undefined while it is not known. */
export function useNextStep(destinationId: Ref<string | null>): Ref<NextStep | null | undefined> {
  const store = useShowStore()
  const planner = usePlannerStore()
  const found = shallowRef<NextStep | null>()
  let asked = 0

  watchDebounced(
    [destinationId, () => store.show, () => planner.isWorking],
    async () => {
      asked += 1
      const own = asked
      found.value = undefined
      if (destinationId.value === null || planner.isWorking || !planner.canPlan) return
      const next = await planner.nextStep(destinationId.value)
      if (own === asked) found.value = next
    },
    { debounce: afterMilliseconds, immediate: true },
  )
  return found
}
