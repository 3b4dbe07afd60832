import type { CanvasName, CanvasPair } from './canvasPair'
import type { Dressing } from './dressing'
import type { Layer } from './scene'
import type { Source } from './source'

/** What a list of shows needs to know of each. */
export interface ShowSummary {
  id: string
  revision: number
  /** ISO 8601. */
  updatedAt: string
  title: string
  startsAt: string
  timeZone: string
  canvasPair: CanvasPair
  /** What the first scene that has anything in it puts on air on each canvas, and the sources it uses. */
  layers: Record<CanvasName, Layer[]>
  sources: Source[]
  dressing: Dressing
  destinations: { name: string; canvas: CanvasName; on: boolean }[]
  verdict: { state: 'fits' | 'attention' | 'fails' | 'nothing yet'; sentence: string }
}

/** A page of the shows there are. */
export interface ShowList {
  shows: ShowSummary[]
  /** Shows whose stored form can't be read. */
  spoilt: { id: string; title: string }[]
  /** Where the next page goes on; null after the last. */
  next: string | null
}
