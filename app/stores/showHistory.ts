import { type Show, tooMany } from '@green-mantle/core/show'
import { useManualRefHistory } from '@vueuse/core'
import { produce } from 'immer'
import { computed, markRaw, type Ref, ref, shallowRef } from 'vue'

interface Edited {
  show: Show
  /** What the last edit did, to name it in undo and redo. */
  label: string
}

export interface EditOptions {
  /** Edits in a row with the same key count as one step for undo: a drag, a run of arrow keys. */
  mergeKey?: string
}

const mergeWithinMilliseconds = 800

/** What is dragged may be drawn late on a slow computer: while it is held a run of edits goes on. */
let isHeld = false
for (const [name, holds] of [
  ['pointerdown', true],
  ['pointerup', false],
  ['pointercancel', false],
] as const)
  globalThis.addEventListener?.(name, () => (isHeld = holds), { capture: true })

/**
 * The edits of a show, one after the other, to be taken back and brought again. `afterChange` is called
 * after each of them; nothing is changed while the show is not open. What could not be kept any more is
 * refused: `refuse` is told why.
 */
export function useShowHistory(
  isOpen: Readonly<Ref<boolean>>,
  afterChange: () => void,
  refuse: (words: string) => void = () => {},
) {
  /** It stays when the show is closed: what is still on the page may go on looking at it. */
  const edited = shallowRef<Edited>()
  const history = useManualRefHistory(edited, { capacity: 1000 })
  let mergeTimer: ReturnType<typeof setTimeout> | undefined
  /** Of the run of merged edits that is going on, which is no step for undo before it ends. */
  const openMergeKey = ref<string>()

  const show = computed(() => edited.value?.show as Show)

  /** Begins anew, with nothing to take back. */
  function begin(first: Show): void {
    endMerge()
    edited.value = { show: first, label: '' }
    history.commit()
    history.clear()
  }

  /** Changes the show; `recipe` may alter the draft it is given. */
  function edit(
    label: string,
    recipe: (draft: Show) => Show | void,
    options: EditOptions = {},
  ): void {
    if (!isOpen.value) return
    const next = produce(show.value, recipe)
    if (next === show.value) return
    const words = tooMany(next)
    if (words !== null && tooMany(show.value) === null) return refuse(words)
    replace(next, label, options)
  }

  function replace(next: Show, label: string, { mergeKey }: EditOptions = {}): void {
    if (openMergeKey.value !== mergeKey) endMerge()
    edited.value = { show: next, label }
    if (mergeKey === undefined) {
      history.commit()
    } else {
      openMergeKey.value = mergeKey
      endMergeLater()
    }
    afterChange()
  }

  /**
   * Changes the show as a consequence of the last edit: undo takes both back together, and redo
   * brings both again.
   */
  function followUp(recipe: (show: Show) => Show): void {
    const before = edited.value
    if (!before || !isOpen.value) return
    const next = recipe(before.show)
    if (next === before.show) return
    edited.value = { show: next, label: before.label }
    // Within a run of merged edits the run's end commits it.
    if (openMergeKey.value === undefined)
      history.last.value = markRaw({ ...history.last.value, snapshot: edited.value })
    afterChange()
  }

  function endMergeLater(): void {
    clearTimeout(mergeTimer)
    mergeTimer = setTimeout(() => (isHeld ? endMergeLater() : endMerge()), mergeWithinMilliseconds)
  }

  /** Closes a run of merged edits, as at the end of a drag. */
  function endMerge(): void {
    clearTimeout(mergeTimer)
    if (openMergeKey.value === undefined) return
    openMergeKey.value = undefined
    history.commit()
  }

  function undo(): void {
    endMerge()
    if (!history.canUndo.value) return
    history.undo()
    afterChange()
  }

  function redo(): void {
    endMerge()
    if (!history.canRedo.value) return
    history.redo()
    afterChange()
  }

  return {
    show,
    begin,
    edit,
    replace,
    followUp,
    endMerge,
    undo,
    redo,
    canUndo: computed(() => openMergeKey.value !== undefined || history.canUndo.value),
    // What was taken back is given up by the first edit of a run, as by any other.
    canRedo: computed(() => openMergeKey.value === undefined && history.canRedo.value),
    undoLabel: computed(() => edited.value?.label ?? ''),
    redoLabel: computed(() => history.redoStack.value[0]?.snapshot?.label ?? ''),
  }
}
