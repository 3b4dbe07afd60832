import type { OnAirLane } from '@green-mantle/core/on-air'
import type {
  CanvasName,
  CanvasPair,
  Dressing,
  Layer,
  Source,
  WithoutDevice,
} from '@green-mantle/core/show'

/** A scene as it is drawn: what is on air on each canvas, front to back. */
export interface DrawnScene {
  id: string
  withoutDevice: WithoutDevice
  layers: Record<CanvasName, Layer[]>
}

/** What of a show is drawn, as plain data. */
export interface DrawnShow {
  canvasPair: CanvasPair
  dressing: Dressing
  sources: Source[]
  scenes: DrawnScene[]
  /** Goes out while this window is away. */
  standbySceneId: string | null
  framesPerSecond: Record<CanvasName, number>
}

/** Why a frame was late. */
export type LateReason = 'drawing' | 'encoder' | 'connection'

/** What the worker tells once a second. */
export interface DrawingState {
  /** Frames of the last second, and how many of them were late. */
  frames: Record<CanvasName, { drawn: number; due: number; late: number }>
  /** Since it began. */
  lateInAll: Record<LateReason, number>
  drawnInAll: number
  /** Whether the server takes what is drawn, and what it wants of it. */
  connection: 'none' | 'open' | 'lost' | 'elsewhere'
  wanted: OnAirLane[]
  /** What an encoder of this browser said when it failed, or why the server is not reached. */
  problem: string
}
