import { type Verdict, verdictOf } from '@green-mantle/core/fit'
import { lineOf } from '@green-mantle/core/show'
import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { fetchShow } from '~/api/shows'
import { takeAbandonedEdit, unreadableEdits } from './keptEdits'
import { useToastStore } from './toasts'
import { useShowHistory } from './showHistory'
import { useShowSaving } from './showSaving'

/** What cannot be read here may be read elsewhere. */
async function takeAway(text: string): Promise<void> {
  const { download } = await import('~/composables/files')
  download('kept edit.json', 'application/json', text)
}

/** The show being edited: the one place that holds it, changes it, undoes it and saves it. */
export const useShowStore = defineStore('show', () => {
  const id = ref('')
  const isOpen = ref(false)
  const toasts = useToastStore()
  const history = useShowHistory(
    isOpen,
    () => saving.afterChange(),
    (words) => void toasts.tell(words, { tone: 'fails' }),
  )
  const { show, begin, replace, ...edits } = history
  const saving = useShowSaving({ id, isOpen, show, replace })

  /** The line that the show goes up. */
  const line = computed(() => lineOf(show.value))
  const verdict = computed<Verdict>(() => verdictOf(show.value))

  async function open(showId: string): Promise<void> {
    close()
    // Else the show could be fetched as it was before its own last edit.
    await saving.untilSettled()
    const fetched = await fetchShow(showId)
    const kept = await takeAbandonedEdit(showId)
    id.value = showId
    saving.begin(fetched)
    begin(fetched.show)
    isOpen.value = true
    if (kept) saving.resume(kept, fetched)
    for (const text of unreadableEdits(showId))
      toasts.tell(
        'An edit of this show was kept in this browser and cannot be read any more. It stays kept here.',
        {
          tone: 'fails',
          action: { label: 'Take it away as a file', run: () => takeAway(text) },
        },
      )
  }

  function close(): void {
    saving.leave()
    history.endMerge()
    isOpen.value = false
    saving.end()
    id.value = ''
  }

  const { isUnsaved, saveState, isKept, differences, keep, save, untilSettled } = saving
  const { settle, takeTheirs, isNewerElsewhere, changesElsewhere } = saving
  const { lookElsewhere, takeNewer } = saving
  return {
    id,
    isOpen,
    show,
    line,
    verdict,
    open,
    close,
    ...edits,
    isUnsaved,
    saveState,
    isKept,
    differences,
    keep,
    save,
    untilSettled,
    settle,
    takeTheirs,
    isNewerElsewhere,
    changesElsewhere,
    lookElsewhere,
    takeNewer,
  }
})
