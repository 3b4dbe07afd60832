import { refDebounced, refThrottled } from '@vueuse/core'
import { computed, markRaw } from 'vue'
import { useSelectionStore } from '~/stores/selection'
import { useShowStore } from '~/stores/show'

/**
 * The show and its scene on the stage, as what is worked out beside a drag looks at them. They are
 * raw: nothing in them is ever altered, and a ref that holds them has Vue note every number that is read.
 */
function useStaged() {
  const store = useShowStore()
  const selection = useSelectionStore()
  return computed(() => markRaw({ show: store.show, scene: selection.scene }))
}

/** Several times a second while something is dragged; at every frame it would slow the drag. */
export const useLookedAt = (milliseconds: number) => refThrottled(useStaged(), milliseconds)

/** Not before a drag pauses. */
export const useSettled = (milliseconds: number) => refDebounced(useStaged(), milliseconds)
