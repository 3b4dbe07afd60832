import type { CanvasName, Size } from '../show'
import type { SendHealth } from './health'

export const canvasInputs = ['on-air window', 'test picture', 'own program'] as const
/**
 * Where a canvas that is sent from here comes from: the on-air window, the moving test picture, the program
 * that draws it, or a media file of the show that is played again and again.
 */
export type CanvasInput = (typeof canvasInputs)[number] | { fileId: string }

/** A picture this much off a canvas's shape is not seen to be. */
const maxOffShape = 0.02

/** Whether a picture is of a canvas's shape, so that filling it distorts nothing that is seen. */
export const isOfShape = (picture: Size, canvas: Size): boolean =>
  Math.abs((picture.width * canvas.height) / (picture.height * canvas.width) - 1) <= maxOffShape

export const sendTargets = ['destinations', 'stand-ins'] as const
/** Where sends from here go: for real, or to the stand-ins of their destinations. */
export type SendTarget = (typeof sendTargets)[number]

/** One send from here: one encode to one ingest of a destination. */
export interface SenderSend extends SendHealth {
  key: string
  destinationId: string
  name: string
  canvas: CanvasName
  isBackup: boolean
  /** Why it cannot be sent from here; empty where it can. */
  cannot: string
  /** How often it came back. */
  reconnects: number
  share: number
}

export interface SenderCanvas {
  canvas: CanvasName
  input: CanvasInput
  encodes: string[]
  /** Whether the on-air window encodes them, so that they are passed on as they come. */
  isPassedOn: boolean
  isRunning: boolean
  /** Against real time; null before it is known. */
  speed: number | null
  restarts: number
  /** Whether the standby scene goes out, for want of the on-air window. */
  isStandby: boolean
  /** Where the program that draws it sends to; null where none does. */
  address: string | null
  streamKey: string | null
}

/** What is sent and recorded from here. */
export interface SenderState {
  canvases: SenderCanvas[]
  sends: SenderSend[]
  recordings: { name: string; file: string; megabytes: number }[]
  /** What of the recordings needs attention, in words; empty while all are written. */
  unrecorded: string[]
}

/** How a platform that stands in for a destination is. */
export interface StandInState {
  /** What its own page shows of the picture; frozen: live, and nothing comes in. */
  picture: 'none' | 'on its way' | 'there' | 'frozen'
  isLive: boolean
  /** Live for a practice audience only. */
  isPractice: boolean
  /** Ended there; the next signal is another session. */
  isOver: boolean
}

export interface ChatLine {
  at: string
  who: string
  text: string
}

/** A stand-in with what is written in its chat, where that can be read elsewhere. */
export interface StandInNow extends StandInState {
  destinationId: string
  chat: ChatLine[]
}
