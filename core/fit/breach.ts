import type { CanvasPair, Destination, Rendition, Rules } from '../show'

export type RuleName =
  | 'size'
  | 'shape'
  | 'frame rate'
  | 'codec'
  | 'level'
  | 'video bitrate'
  | 'keyframe interval'
  | 'B-frames'
  | 'audio codec'
  | 'audio bitrate'
  | 'audio channels'
  | 'audio sample rate'
  | 'number of renditions'

/** One rule that a rendition does not keep, in words, with the values that would keep it. */
export interface Breach {
  destinationId: string
  renditionId: string
  rule: RuleName
  /** A sentence that names the destination, what is wrong and what it accepts. */
  words: string
  /** What to set, in words as short as a button wants. null where no value of this rendition can help. */
  remedy: { words: string; changes: Partial<Rendition> } | null
}

export interface Subject {
  rules: Rules
  rendition: Rendition
  destination: Destination
  canvasPair: CanvasPair
}
export type Finding = Omit<Breach, 'destinationId' | 'renditionId'>
/** Looks at one rule; null where it is kept. */
export type Check = (subject: Subject) => Finding | null
