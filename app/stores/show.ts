import { type Verdict, verdictOf } from '@green-mantle/core/fit'
import {
  lineOf,
  combineEdits,
  isSameJson,
  type Show,
  withoutOrphans,
} from '@green-mantle/core/show'
import { useManualRefHistory } from '@vueuse/core'
import { produce } from 'immer'
import { defineStore } from 'pinia'
import { computed, markRaw, ref, shallowRef } from 'vue'
import { ApiProblem } from '~/api/problem'
import { currentFrom, fetchShow, saveShow, type StoredShow } from '~/api/shows'
import { forgetEdit, keepEdit, takeAbandonedEdit } from './keptEdits'

export type SaveState =
  | { name: 'saved'; at: Date }
  | { name: 'unsaved' }
  | { name: 'saving' }
  /** The server or its database does not answer; it is tried again by itself. */
  | { name: 'waiting'; words: string }
  /** Saved elsewhere in the meantime; the person has to choose. */
  | { name: 'changed elsewhere' }
  /** The server will not take it as it is. */
  | { name: 'refused'; words: string }

interface Edited {
  show: Show
  /** What the last edit did, to name it in undo and redo. */
  label: string
}

interface EditOptions {
  /** Edits in a row with the same key count as one step for undo: a drag, a run of arrow keys. */
  mergeKey?: string
}

const saveAfterMilliseconds = 500
const retryAfterMilliseconds = 2000
const mergeWithinMilliseconds = 800

/** The show being edited: the one place that holds it, changes it, undoes it and saves it. */
export const useShowStore = defineStore('show', () => {
  const id = ref('')
  const isOpen = ref(false)
  /** It stays when the show is closed: what is still on the page may go on looking at it. */
  const edited = shallowRef<Edited>()
  const history = useManualRefHistory(edited, { capacity: 1000 })
  /** What the server last acknowledged or handed out; the base of every comparison. */
  const stored = shallowRef<StoredShow>()
  const saveState = shallowRef<SaveState>({ name: 'saved', at: new Date() })
  const elsewhere = shallowRef<StoredShow>()
  /** Whether the browser had room to keep what is not saved yet. */
  const isKept = ref(true)

  let saveTimer: ReturnType<typeof setTimeout> | undefined
  let mergeTimer: ReturnType<typeof setTimeout> | undefined
  let openMergeKey: string | undefined
  /** The save on its way, and what the server acknowledged of it. */
  let onItsWay: Promise<StoredShow | undefined> | undefined
  let lastOfLeft: Promise<void> | undefined

  const show = computed(() => edited.value?.show as Show)
  const isUnsaved = computed(() => isOpen.value && show.value !== stored.value?.show)
  /** The line that the show goes up. */
  const line = computed(() => lineOf(show.value))
  const verdict = computed<Verdict>(() => verdictOf(show.value))

  async function open(showId: string): Promise<void> {
    close()
    // Else the show could be fetched as it was before its own last edit.
    await settled()
    const fetched = await fetchShow(showId)
    const kept = await takeAbandonedEdit(showId)
    id.value = showId
    stored.value = fetched
    startHistory(fetched.show)
    saveState.value = { name: 'saved', at: new Date() }
    if (kept) resume(kept, fetched)
  }

  /** Goes on with an edit that a closed tab had not saved. */
  function resume(kept: StoredShow & { base: Show }, fetched: StoredShow): void {
    if (isSameJson(kept.show, fetched.show)) return
    replace(kept.show, 'Unsaved edit taken up again')
    keep()
    if (isSameJson(kept.base, fetched.show)) return
    stored.value = { show: kept.base, revision: kept.revision }
    stopForChoice(fetched)
  }

  function startHistory(first: Show): void {
    edited.value = { show: first, label: '' }
    history.commit()
    history.clear()
    isOpen.value = true
  }

  function close(): void {
    clearTimeout(saveTimer)
    if (isUnsaved.value) {
      keep()
      lastOfLeft = saveLast(id.value, stored.value as StoredShow, show.value)
    }
    endMerge()
    isOpen.value = false
    elsewhere.value = undefined
    stored.value = undefined
    id.value = ''
  }

  /** Changes the show; `recipe` may alter the draft it is given. */
  function edit(
    label: string,
    recipe: (draft: Show) => Show | void,
    options: EditOptions = {},
  ): void {
    if (!isOpen.value) return
    const next = produce(show.value, recipe)
    if (next !== show.value) replace(next, label, options)
  }

  function replace(next: Show, label: string, { mergeKey }: EditOptions = {}): void {
    if (openMergeKey !== undefined && openMergeKey !== mergeKey) endMerge()
    edited.value = { show: next, label }
    if (mergeKey === undefined) {
      history.commit()
    } else {
      openMergeKey = mergeKey
      clearTimeout(mergeTimer)
      mergeTimer = setTimeout(endMerge, mergeWithinMilliseconds)
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
    if (openMergeKey === undefined)
      history.last.value = markRaw({ ...history.last.value, snapshot: edited.value })
    afterChange()
  }

  /** Closes a run of merged edits, as at the end of a drag. */
  function endMerge(): void {
    clearTimeout(mergeTimer)
    if (openMergeKey === undefined) return
    openMergeKey = undefined
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

  /** Keeps what is unsaved in the browser, so that closing the tab does not lose it. */
  function keep(): void {
    if (!stored.value || !isUnsaved.value) return
    const { show: base, revision } = stored.value
    const keptAt = new Date().toISOString()
    isKept.value = keepEdit(id.value, { base, revision, show: show.value, keptAt })
  }

  function saveAfter(milliseconds: number): void {
    clearTimeout(saveTimer)
    saveTimer = setTimeout(() => void save(), milliseconds)
  }

  function afterChange(): void {
    if (saveState.value.name === 'changed elsewhere') return keep()
    // Undone or redone to what the server holds: there is nothing to save.
    if (!isUnsaved.value && !onItsWay) {
      clearTimeout(saveTimer)
      return acknowledge(stored.value as StoredShow)
    }
    if (saveState.value.name !== 'waiting') saveState.value = { name: 'unsaved' }
    saveAfter(saveAfterMilliseconds)
  }

  /** Saves what is unsaved; only one save is on its way at a time. */
  async function save(): Promise<void> {
    clearTimeout(saveTimer)
    if (onItsWay || !isUnsaved.value || saveState.value.name === 'changed elsewhere') return
    onItsWay = send().finally(() => {
      onItsWay = undefined
      // Another show may have been opened and edited while this one was on its way.
      if (isUnsaved.value && saveState.value.name === 'unsaved') saveAfter(saveAfterMilliseconds)
    })
    await onItsWay
  }

  /** Saves the last edit of a show that is being left; where that fails, the browser has kept it. */
  async function saveLast(showId: string, base: StoredShow, last: Show): Promise<void> {
    const from = (await onItsWay) ?? base
    try {
      if (from.show !== last) await saveShow(showId, from.revision, last)
      if (id.value !== showId) forgetEdit(showId)
    } catch {
      // It is taken up again when the show is next opened.
    }
  }

  async function settled(): Promise<void> {
    await onItsWay
    await lastOfLeft
  }

  async function send(): Promise<StoredShow | undefined> {
    const [showId, sent, base] = [id.value, show.value, stored.value as StoredShow]
    const isStillOpen = (): boolean => id.value === showId
    if (saveState.value.name !== 'waiting') saveState.value = { name: 'saving' }
    keep()
    try {
      const revision = await saveShow(showId, base.revision, sent)
      const saved = { show: sent, revision }
      if (isStillOpen()) acknowledge(saved)
      return saved
    } catch (error) {
      if (isStillOpen()) notSaved(error, sent)
      return undefined
    }
  }

  function acknowledge(saved: StoredShow): void {
    stored.value = saved
    if (isUnsaved.value) {
      // More was edited while the save was on its way.
      saveState.value = { name: 'unsaved' }
      return
    }
    forgetEdit(id.value)
    saveState.value = { name: 'saved', at: new Date() }
  }

  function notSaved(error: unknown, sent: Show): void {
    keep()
    if (error instanceof ApiProblem && error.status === 412) {
      const current = currentFrom(error)
      // An earlier save went through although its answer was lost.
      if (isSameJson(current.show, sent)) return acknowledge({ ...current, show: sent })
      return stopForChoice(current)
    }
    if (error instanceof ApiProblem && error.isPassing) {
      saveState.value = { name: 'waiting', words: error.title }
      saveAfter(retryAfterMilliseconds)
      return
    }
    saveState.value = {
      name: 'refused',
      words: error instanceof Error ? error.message : `${error}`,
    }
  }

  function stopForChoice(current: StoredShow): void {
    clearTimeout(saveTimer)
    elsewhere.value = current
    saveState.value = { name: 'changed elsewhere' }
    keep()
  }

  /** Every place in which this show and the one saved elsewhere differ. */
  const differences = computed(() =>
    stored.value && elsewhere.value
      ? combineEdits(stored.value.show, show.value, elsewhere.value.show, () => 'mine').differences
      : [],
  )

  /** Goes on from the show saved elsewhere with the chosen places of ours; undo leads back to ours. */
  function settle(placesOfTheirs: ReadonlySet<string>): void {
    const [base, theirs] = [stored.value, elsewhere.value]
    if (!base || !theirs) return
    const { combined } = combineEdits(base.show, show.value, theirs.show, ({ place }) =>
      placesOfTheirs.has(place) ? 'theirs' : 'mine',
    )
    goOnFrom(theirs, withoutOrphans(combined), 'Bring both edits together')
  }

  /** Takes the show as it was saved elsewhere; undo leads back to ours. */
  function takeTheirs(): void {
    if (elsewhere.value) goOnFrom(elsewhere.value, elsewhere.value.show, 'Take the other edit')
  }

  function goOnFrom(theirs: StoredShow, next: Show, label: string): void {
    stored.value = theirs
    elsewhere.value = undefined
    saveState.value = { name: 'unsaved' }
    replace(next, label)
    if (isUnsaved.value) void save()
    else acknowledge(theirs)
  }

  return {
    id,
    show,
    isOpen,
    isUnsaved,
    line,
    verdict,
    saveState,
    isKept,
    differences,
    canUndo: history.canUndo,
    canRedo: history.canRedo,
    undoLabel: computed(() => edited.value?.label ?? ''),
    redoLabel: computed(() => history.redoStack.value[0]?.snapshot?.label ?? ''),
    open,
    close,
    edit,
    followUp,
    endMerge,
    undo,
    redo,
    keep,
    save,
    /** Resolves when no save is on its way any more. */
    untilSettled: settled,
    settle,
    takeTheirs,
  }
})
