import { combineEdits, isSameJson, type Show, withoutOrphans } from '@green-mantle/core/show'
import { computed, type Ref, ref, shallowRef } from 'vue'
import { ApiProblem } from '~/api/problem'
import { currentFrom, fetchShowIfNewer, saveShow, type StoredShow } from '~/api/shows'
import { forgetEdit, keepEdit, type KeptEdit } from './keptEdits'

type SaveState =
  | { name: 'saved'; at: Date }
  | { name: 'unsaved' }
  | { name: 'saving' }
  /** The server or its database does not answer; it is tried again by itself. */
  | { name: 'waiting'; words: string }
  /** Saved elsewhere in the meantime; the person has to choose. */
  | { name: 'changed elsewhere' }
  /** The server will not take it as it is. */
  | { name: 'refused'; words: string }

/** The show whose edits are saved, and how it is replaced where another edit is brought into it. */
export interface EditedShow {
  id: Readonly<Ref<string>>
  isOpen: Readonly<Ref<boolean>>
  show: Readonly<Ref<Show>>
  replace: (next: Show, label: string) => void
}

const saveAfterMilliseconds = 500
const retryAfterMilliseconds = 2000

/**
 * Saves the edits of a show a moment after they are made, one save at a time, and keeps in the browser
 * what the server has not acknowledged. Where it was saved elsewhere in the meantime, nothing more is
 * saved until the person has chosen.
 */
export function useShowSaving({ id, isOpen, show, replace }: EditedShow) {
  /** What the server last acknowledged or handed out; the base of every comparison. */
  const stored = shallowRef<StoredShow>()
  const saveState = shallowRef<SaveState>({ name: 'saved', at: new Date() })
  const elsewhere = shallowRef<StoredShow>()
  /** What was saved elsewhere while nothing here is unsaved; nothing collides, so it can wait. */
  const newer = shallowRef<StoredShow>()
  /** Whether the browser had room to keep what is not saved yet. */
  const isKept = ref(true)

  let saveTimer: ReturnType<typeof setTimeout> | undefined
  /** The save on its way, and what the server acknowledged of it. */
  let onItsWay: Promise<StoredShow | undefined> | undefined
  let lastOfLeft: Promise<void> | undefined

  const isUnsaved = computed(() => isOpen.value && show.value !== stored.value?.show)

  /** Begins with what the server handed out. */
  function begin(fetched: StoredShow): void {
    stored.value = fetched
    newer.value = undefined
    saveState.value = { name: 'saved', at: new Date() }
  }

  /** Goes on with an edit that a closed tab had not saved. */
  function resume(kept: KeptEdit, fetched: StoredShow): void {
    if (isSameJson(kept.show, fetched.show)) return
    replace(kept.show, 'Unsaved edit taken up again')
    keep()
    if (isSameJson(kept.base, fetched.show)) return
    stored.value = { show: kept.base, revision: kept.revision }
    stopForChoice(fetched)
  }

  /** Sends what is unsaved of a show that is being left. */
  function leave(): void {
    clearTimeout(saveTimer)
    if (isUnsaved.value) {
      keep()
      lastOfLeft = saveLast(id.value, stored.value as StoredShow, show.value)
    }
  }

  function end(): void {
    elsewhere.value = undefined
    newer.value = undefined
    stored.value = undefined
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

  /** Resolves when no save is on its way any more. */
  async function untilSettled(): Promise<void> {
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
    newer.value = undefined
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

  /** Looks whether the show was saved elsewhere; what is unsaved here meets it when it is saved. */
  async function lookElsewhere(): Promise<void> {
    const [showId, base] = [id.value, stored.value]
    if (!base || onItsWay || saveState.value.name !== 'saved') return
    // What cannot be asked now is asked again in a moment.
    const found = await fetchShowIfNewer(showId, (newer.value ?? base).revision).catch(() => null)
    const isStillSo = id.value === showId && stored.value === base && !isUnsaved.value && !onItsWay
    if (found && isStillSo) newer.value = found
  }

  /** Takes in what was saved elsewhere; undo leads back. */
  function takeNewer(): void {
    if (newer.value && !isUnsaved.value)
      goOnFrom(newer.value, newer.value.show, 'Take in what was changed elsewhere')
  }

  function goOnFrom(theirs: StoredShow, next: Show, label: string): void {
    stored.value = theirs
    elsewhere.value = undefined
    newer.value = undefined
    saveState.value = { name: 'unsaved' }
    replace(next, label)
    if (isUnsaved.value) void save()
    else acknowledge(theirs)
  }

  return {
    saveState,
    isUnsaved,
    isKept,
    differences,
    begin,
    resume,
    leave,
    end,
    afterChange,
    keep,
    save,
    untilSettled,
    settle,
    takeTheirs,
    /** In how many places what was saved elsewhere is not as it is here. */
    changesElsewhere: computed(() => {
      const [base, found] = [stored.value, newer.value]
      if (!base || !found) return 0
      return combineEdits(base.show, base.show, found.show, () => 'theirs').differences.length
    }),
    isNewerElsewhere: computed(() => newer.value !== undefined && !isUnsaved.value),
    lookElsewhere,
    takeNewer,
  }
}
