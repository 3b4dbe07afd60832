import type { CanvasName, CanvasPair } from './canvasPair'
import type { Scene } from './scene'
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
  /** The first scene that has anything in it, and the sources it uses. */
  scene: Scene | null
  sources: Source[]
  destinations: { name: string; canvas: CanvasName; on: boolean }[]
  verdict: { state: 'fits' | 'attention' | 'fails' | 'nothing yet'; sentence: string }
}
