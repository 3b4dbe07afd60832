import type { CanvasName, NightPhase, TaskKind } from '../show'

/** What the application knows by itself, so that a task is done when it is so. */
export const knownFacts = [
  'line measured',
  'disk free',
  'encoders measured',
  'rehearsed',
  'key present',
] as const
export type KnownFact = (typeof knownFacts)[number]

/** Which stage of a send a task brings it to. */
export const sendStages = ['key', 'sending', 'arrived', 'live', 'ended'] as const
export type SendStage = (typeof sendStages)[number]

export interface Waiting {
  id: string
  /** What passes between the end of that and this: a page shows the picture seconds later. */
  lagSeconds: number
  /** Only because the same person does both; either may go first. */
  isSameHands?: true
}

/** One thing to do on the night, as it is made from the show. */
export interface Task {
  id: string
  title: string
  /** What to know while doing it; may be empty. */
  hint: string
  phase: NightPhase
  kind: TaskKind
  destinationId: string | null
  canvas: CanvasName | null
  personId: string | null
  /** The tasks that have to be done first. */
  waitsFor: readonly Waiting[]
  durationSeconds: number
  /** How it is told to be done. */
  told: 'by hand' | KnownFact
  /** The stage that its destination has reached when it is done. */
  stage: SendStage | null
  /**
   * When it is due, in seconds from the start of the show: begun at the latest then, exactly then, or
   * as soon as what it waits for is done and never before then.
   */
  due: { rule: 'latest' | 'at' | 'not before'; seconds: number }
}
