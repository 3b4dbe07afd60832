import type { Happening } from '@green-mantle/core/night'

/** Something that happened on a night and that the server has not kept yet. */
export interface KeptHappening {
  id: string
  who: string
  /** By this browser's clock. */
  atMilliseconds: number
  happening: Happening
}

const prefix = 'green-mantle.night.'
const keyOf = (showId: string, id: string): string => `${prefix}${showId}.${id}`

/**
 * Keeps one in the browser until the server has; an entry each, so that windows do not write over each
 * other's. Where the browser has no room it is kept by the window alone.
 */
export function keepHappening(showId: string, kept: KeptHappening): void {
  try {
    localStorage.setItem(keyOf(showId, kept.id), JSON.stringify(kept))
  } catch {
    // It is sent from memory all the same.
  }
}

export function forgetHappening(showId: string, id: string): void {
  localStorage.removeItem(keyOf(showId, id))
}

/**
 * What any window of this browser has not seen kept, first to last. One that still lives may be sending
 * it too: the server keeps it once.
 */
export function keptHappenings(showId: string): KeptHappening[] {
  return Object.keys(localStorage)
    .filter((key) => key.startsWith(`${prefix}${showId}.`))
    .flatMap((key) => {
      try {
        const kept = JSON.parse(localStorage.getItem(key) ?? '') as KeptHappening
        return typeof kept.id === 'string' && Number.isFinite(kept.atMilliseconds) ? [kept] : []
      } catch {
        return []
      }
    })
    .sort((a, b) => a.atMilliseconds - b.atMilliseconds)
}
