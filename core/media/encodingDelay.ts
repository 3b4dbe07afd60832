import type { Rendition } from '../show'

/** Seconds that an encoder holds frames back: for B-frames, which need the frame after them, and for looking ahead. */
export const encodingDelaySeconds = ({
  bFrames,
  framesPerSecond,
  encoder,
}: Pick<Rendition, 'bFrames' | 'framesPerSecond' | 'encoder'>): number =>
  (bFrames + encoder.lookAheadFrames) / framesPerSecond
