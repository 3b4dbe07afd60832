import { type CanvasName, transitionTo } from '@green-mantle/core/show'
import { usePreferredReducedMotion } from '@vueuse/core'
import { type Ref, watch } from 'vue'
import { useSelectionStore } from '~/stores/selection'
import { useShowStore } from '~/stores/show'

/**
 * Lets the scene that was on air fade over the one that follows, as long as that
 * takes to come. `drawn` gives the canvas on which the scene is drawn; `surface` lies over it.
 */
export function useSceneFade(
  canvas: CanvasName,
  drawn: () => HTMLCanvasElement | undefined,
  surface: Readonly<Ref<HTMLCanvasElement | null>>,
): void {
  const store = useShowStore()
  const selection = useSelectionStore()
  const prefersStill = usePreferredReducedMotion()

  function fadeFromBefore(): void {
    const { kind, milliseconds } = transitionTo(store.show, selection.scene)
    const before = drawn()
    const over = surface.value
    if (!before || !over || kind !== 'fade' || prefersStill.value === 'reduce') return
    over.width = before.width
    over.height = before.height
    over.getContext('2d')?.drawImage(before, 0, 0)
    over.animate([{ opacity: 1 }, { opacity: 0 }], { duration: milliseconds })
  }
  // Before the canvas is drawn anew.
  watch(
    () => (canvas === 'vertical' ? selection.verticalScene : selection.scene).id,
    fadeFromBefore,
    { flush: 'pre' },
  )
}
