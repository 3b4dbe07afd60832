import { pinnable } from '../plan'
import type { Recording } from '../recording'
import type { Rendition } from '../rendition'
import type { Show } from '../show'
import { changedById } from './changedById'

type WithRecordings = Pick<Show, 'recordings'>

/** A show with one recording changed. */
export const withRecording = <Shown extends WithRecordings>(
  show: Shown,
  id: string,
  change: (recording: Recording) => Recording,
): Shown => ({ ...show, recordings: changedById(show.recordings, id, change) })

/** A show that is not recorded in one place; what was set for it stays. */
export const withRecordingOff = <Shown extends WithRecordings>(show: Shown, id: string): Shown =>
  withRecording(show, id, (recording) => ({ ...recording, on: false }))

/** A recording of exactly what is sent somewhere, held, so that one encode serves both. */
export function recordedLike(recording: Recording, sent: Rendition): Recording {
  const { width, height, framesPerSecond, codec, effort, videoBitrateKbps } = sent
  return {
    ...recording,
    codecs: [...new Set([...recording.codecs, codec])],
    mostVideoBitrateKbps: Math.max(recording.mostVideoBitrateKbps, videoBitrateKbps),
    rendition: {
      ...recording.rendition,
      ...{ width, height, framesPerSecond, codec, effort, videoBitrateKbps },
      keyframeIntervalSeconds: sent.keyframeIntervalSeconds,
      bFrames: sent.bFrames,
      encoder: sent.encoder,
      pins: [...pinnable],
    },
  }
}
