import type { Show } from '@green-mantle/core/show'
import { readingWorker } from '~/workers/workers'
import { announceTab, livingTabs } from './livingTabs'

/** An edit that the server has not acknowledged yet, with what it was edited from. */
export interface KeptEdit {
  base: Show
  revision: number
  show: Show
  keptAt: string
}

const prefix = 'green-mantle.kept-edit.'
/** Names this tab for as long as it is loaded; a page over plain HTTP has no other way to make a name. */
const tab = Array.from(crypto.getRandomValues(new Uint32Array(4)), (part) =>
  part.toString(36),
).join('-')
const keyOf = (showId: string, owner: string): string => `${prefix}${showId}.${owner}`

// So that another can tell an abandoned edit from a living tab's.
announceTab(tab)

/** Keeps an edit in the browser until it is saved. Returns whether there was room for it. */
export function keepEdit(showId: string, edit: KeptEdit): boolean {
  try {
    localStorage.setItem(keyOf(showId, tab), JSON.stringify(edit))
    return true
  } catch {
    return false
  }
}

export function forgetEdit(showId: string): void {
  localStorage.removeItem(keyOf(showId, tab))
}

async function readEdit(key: string): Promise<KeptEdit | null> {
  try {
    const edit = JSON.parse(localStorage.getItem(key) ?? '') as KeptEdit
    const isWhole =
      (await readingWorker().isShow(edit.base)) && (await readingWorker().isShow(edit.show))
    return isWhole && Number.isInteger(edit.revision) ? edit : null
  } catch {
    return null
  }
}

/** By show, where those stand that were found and could not be read. */
const unreadable = new Map<string, readonly string[]>()

/** What was kept of a show and cannot be read, as it stands there. */
export const unreadableEdits = (showId: string): string[] =>
  (unreadable.get(showId) ?? []).flatMap((key) => localStorage.getItem(key) ?? [])

/**
 * Takes over an unsaved edit of this show that this tab or a closed one left behind, the newest where
 * there are several. One that can't be read stays where it is.
 */
export async function takeAbandonedEdit(showId: string): Promise<KeptEdit | null> {
  const all = Object.keys(localStorage).filter((key) => key.startsWith(`${prefix}${showId}.`))
  if (all.length === 0) return null
  const living = await livingTabs()
  const keys = all.filter((key) => {
    const owner = key.slice(`${prefix}${showId}.`.length)
    return owner === tab || !living.has(owner)
  })
  const abandoned = await Promise.all(keys.map(async (key) => ({ key, edit: await readEdit(key) })))
  unreadable.set(
    showId,
    abandoned.filter(({ edit }) => edit === null).map(({ key }) => key),
  )
  abandoned.sort((a, b) => (b.edit?.keptAt ?? '').localeCompare(a.edit?.keptAt ?? ''))
  const newest = abandoned[0]
  if (!newest?.edit) return null
  localStorage.removeItem(newest.key)
  return newest.edit
}
