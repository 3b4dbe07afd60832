import { useRafFn } from '@vueuse/core'
import { computed, type ComputedRef, type Ref, shallowRef } from 'vue'

/** Lets the page draw, and people click, before what comes next. */
export const nextFrame = (): Promise<void> =>
  new Promise((resolve) => requestAnimationFrame(() => setTimeout(resolve)))

/** How many frames were drawn since the page was opened, counted as far as `most`: what is less looked at comes later. */
export function useFramesDrawn(most: number): Ref<number> {
  const frames = shallowRef(0)
  const { pause } = useRafFn(() => {
    frames.value += 1
    if (frames.value >= most) pause()
  })
  return frames
}

/** The beginning of a long list, so many entries more with each frame until all are there. */
export function useInTurn<Entry>(
  entries: () => readonly Entry[],
  perFrame: number,
): ComputedRef<readonly Entry[]> {
  const count = shallowRef(perFrame)
  const { pause } = useRafFn(() => {
    count.value += perFrame
    if (count.value >= entries().length) {
      // Whatever joins the list later is there at once.
      count.value = Infinity
      pause()
    }
  })
  return computed(() => entries().slice(0, count.value))
}
