import { newShow, type Show, type ShowList, type ShowSummary } from '@green-mantle/core/show'
import { nanoid } from 'nanoid'
import { defineStore } from 'pinia'
import { ref } from 'vue'
import { wordsFor } from '~/api/problem'
import { createShow, deleteShow, fetchShow, fetchShows, restoreShow, saveShow } from '~/api/shows'
import { chooseTextFile, downloadShowFile } from '~/composables/files'
import { readingWorker } from '~/workers/workers'
import { useShowStore } from './show'
import { useToastStore } from './toasts'

const longestTitle = 200

/** The shows there are, and what Home does with them. Every failure is told, and nothing is changed by it. */
export const useShowsStore = defineStore('shows', () => {
  const toasts = useToastStore()
  const summaries = ref<ShowSummary[]>()
  /** Shows whose stored form can't be read. */
  const spoilt = ref<ShowList['spoilt']>([])
  /** Where the list goes on; null where all of it is here. */
  const next = ref<string | null>(null)
  const problem = ref('')
  /** How to take back the last thing that was done here. */
  const lastUndo = ref<() => Promise<void>>()

  async function load(): Promise<void> {
    try {
      // A show that was just left may still be on its way to the server.
      await useShowStore().untilSettled()
      const list = await fetchShows()
      summaries.value = list.shows
      spoilt.value = list.spoilt
      next.value = list.next
      problem.value = ''
    } catch (error) {
      problem.value = wordsFor(error)
    }
  }

  async function loadMore(): Promise<void> {
    if (next.value === null) return
    try {
      const list = await fetchShows(next.value)
      // What was edited meanwhile stands at the top already.
      const known = new Set(summaries.value?.map(({ id }) => id))
      summaries.value = [
        ...(summaries.value ?? []),
        ...list.shows.filter(({ id }) => !known.has(id)),
      ]
      spoilt.value = [...spoilt.value, ...list.spoilt]
      next.value = list.next
    } catch (error) {
      toasts.tell(wordsFor(error), { tone: 'fails' })
    }
  }

  /** Does something, tells the outcome, and shows the list as it then is. */
  async function act(
    work: () => Promise<{ words: string; undo?: () => Promise<unknown> } | void>,
  ): Promise<void> {
    try {
      const done = await work()
      await load()
      if (!done) return
      const { words, undo } = done
      if (!undo) return void toasts.tell(words)
      const takeBack = async (): Promise<void> => {
        lastUndo.value = undefined
        await act(async () => void (await undo()))
      }
      lastUndo.value = takeBack
      toasts.tell(words, { action: { label: 'Undo', run: takeBack } })
    } catch (error) {
      toasts.tell(wordsFor(error), { tone: 'fails' })
    }
  }

  async function create(): Promise<string | undefined> {
    const { DateTime } = await import('luxon')
    const { zoneName } = DateTime.local()
    const inAWeek = DateTime.local().plus({ weeks: 1 }).set({ hour: 20, minute: 0 })
    return add(
      newShow(() => nanoid(12), {
        startsAt: inAWeek.toFormat("yyyy-MM-dd'T'HH:mm"),
        timeZone: zoneName ?? 'UTC',
      }),
    )
  }

  /** Stores a show and gives its identifier; undefined where it failed. */
  async function add(show: Show): Promise<string | undefined> {
    let id: string | undefined
    await act(async () => {
      id = (await createShow(show)).id
    })
    return id
  }

  async function addDemo(): Promise<string | undefined> {
    const { plannedDemoShow } = await import('@green-mantle/demo')
    return add(plannedDemoShow)
  }

  async function openFile(): Promise<string | undefined> {
    const file = await chooseTextFile('.json,application/json')
    if (!file) return undefined
    const read = await readingWorker().readShowFile(file.text)
    if (read.ok) return add(read.show)
    const places = read.problems.slice(0, 5).map(({ place, message }) => `${place}: ${message}`)
    const more = read.problems.length > 5 ? `\nand ${read.problems.length - 5} more` : ''
    toasts.tell(
      `${file.name} was not opened (${read.reason}). What is stored is unchanged.\n${places.join('\n')}${more}`,
      { tone: 'fails' },
    )
    return undefined
  }

  const duplicate = (summary: ShowSummary): Promise<void> =>
    act(async () => {
      const { show } = await fetchShow(summary.id)
      const title = `${show.title.slice(0, longestTitle - 5)} copy`
      const copy = await createShow({ ...show, title })
      return { words: `“${title}” was made.`, undo: () => deleteShow(copy.id) }
    })

  async function retitle(id: string, title: string): Promise<void> {
    const { show, revision } = await fetchShow(id)
    await saveShow(id, revision, { ...show, title })
  }

  const rename = (summary: ShowSummary, title: string): Promise<void> =>
    act(async () => {
      await retitle(summary.id, title)
      return { words: `Renamed to “${title}”.`, undo: () => retitle(summary.id, summary.title) }
    })

  const remove = (summary: ShowSummary): Promise<void> =>
    act(async () => {
      await deleteShow(summary.id)
      return { words: `“${summary.title}” was deleted.`, undo: () => restoreShow(summary.id) }
    })

  const saveAsFile = (summary: ShowSummary): Promise<void> =>
    act(async () => {
      await downloadShowFile((await fetchShow(summary.id)).show)
    })

  return {
    summaries,
    spoilt,
    next,
    problem,
    lastUndo,
    load,
    loadMore,
    create,
    addDemo,
    openFile,
    duplicate,
    rename,
    remove,
    saveAsFile,
  }
})
