import { tryOnScopeDispose, whenever } from '@vueuse/core'
import { computed, type ComputedRef, getCurrentScope, type Ref, shallowRef } from 'vue'

/** Pages that nobody sees are drawn no frames, and go on all the same. */
const longestFrameMilliseconds = 250

/** Lets the page draw, and people click, before what comes next. */
export const nextFrame = (): Promise<void> =>
  new Promise((resolve) => {
    const inNoFrame = setTimeout(resolve, longestFrameMilliseconds)
    requestAnimationFrame(() => {
      clearTimeout(inNoFrame)
      // After the frame and not within it, so that neither makes the other longer.
      setTimeout(resolve)
    })
  })

let lastTurn = Promise.resolve()

/** Each who waits has a frame to itself, in the order in which they asked. */
export function nextTurn(): Promise<void> {
  lastTurn = lastTurn.then(nextFrame)
  return lastTurn
}

/** Takes a turn while there is need of one, until who asked is left. */
async function takeTurns(isNeeded: () => boolean, take: () => void): Promise<void> {
  let isLeft = false
  tryOnScopeDispose(() => {
    isLeft = true
  })
  while (isNeeded() && !isLeft) {
    await nextTurn()
    take()
  }
}

/** How many turns have come since it was asked, up to `most`. */
export function useTurns(most = 1): Ref<number> {
  const turns = shallowRef(0)
  void takeTurns(
    () => turns.value < most,
    () => (turns.value += 1),
  )
  return turns
}

/** The beginning of a long list, so many entries more with each turn until all are there. */
export function useInTurn<Entry>(
  entries: () => readonly Entry[],
  perTurn: number,
): ComputedRef<readonly Entry[]> {
  const count = shallowRef(perTurn)
  const scope = getCurrentScope()
  const isMore = (): boolean => count.value < entries().length
  async function bringAll(): Promise<void> {
    await scope?.run(() => takeTurns(isMore, () => (count.value += perTurn)))
    // Whatever joins the list later is there at once.
    count.value = Infinity
  }
  whenever(
    () => entries().length > 0,
    () => void bringAll(),
    { immediate: true, once: true },
  )
  return computed(() => entries().slice(0, count.value))
}
