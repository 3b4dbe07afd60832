import { type Encode, type EncodeFeed, encodesOf } from '../fit'
import {
  type CanvasName,
  type Protocol,
  type Rendition,
  type Sending,
  type Show,
  streamNames,
} from '../show'
import { handedOverMuxer, muxers, recordingMuxer } from './programTables'

export type EncodedShow = Pick<Show, 'title' | 'destinations' | 'recordings' | 'computer'>

/** One place that an encode goes to: who it is for, what it is put into, and its sound. */
export interface EncodedOutput {
  /** Unique among the outputs of a show. */
  key: string
  feed: EncodeFeed
  /** What is added to the key where a ladder names its streams; empty where none is. */
  streamName: string
  /** 0 for the main rendition. */
  step: number
  muxer: string
  /** null for a file. */
  protocol: Protocol | null
  rendition: Rendition
  /** The archive mix comes from an input of its own. */
  isArchiveMix: boolean
  /** How it is sent; null for a file, of which nothing is dropped. */
  sending: Sending | null
}

/** So fine that what is made of it as Opus loses little, kb/s; our choice. */
const handedOverSoundKbps = 256

/**
 * An output as it comes to the server, from where it is sent on by its own protocol: as FLV, or in
 * fragments where its codec is newer, with AAC. On loopback nothing of it is ever behind.
 */
export const handedOver = (output: EncodedOutput): EncodedOutput => ({
  ...output,
  muxer: handedOverMuxer(output.rendition.codec),
  sending: null,
  rendition:
    output.rendition.audioCodec === 'aac'
      ? output.rendition
      : { ...output.rendition, audioCodec: 'aac', audioBitrateKbps: handedOverSoundKbps },
})

/** What one process encodes: all of one canvas, which it decodes once. */
export interface CanvasEncodes {
  canvas: CanvasName
  encodes: { encode: Encode; outputs: EncodedOutput[] }[]
}

function outputOf(show: EncodedShow, feed: EncodeFeed): EncodedOutput {
  const key = [feed.ownerId, feed.renditionId, feed.isBackup ? 'backup' : 'main'].join(' ')
  const ownerOf = <Owner extends { id: string }>(owners: readonly Owner[]): Owner =>
    owners.find(({ id }) => id === feed.ownerId) as Owner
  if (feed.isRecording) {
    const { rendition, mix } = ownerOf(show.recordings)
    const isArchiveMix = mix === 'archive mix'
    return {
      ...{ key, feed, streamName: '', step: 0, muxer: recordingMuxer, protocol: null },
      ...{ rendition, isArchiveMix, sending: null },
    }
  }
  const destination = ownerOf(show.destinations)
  const step = destination.renditions.findIndex(({ id }) => id === feed.renditionId)
  return {
    key,
    feed,
    streamName: streamNames(destination)[step] ?? '',
    step,
    muxer: muxers[destination.protocol],
    protocol: destination.protocol,
    rendition: destination.renditions[step] as Rendition,
    isArchiveMix: false,
    sending: destination.sending,
  }
}

/** The encodes of a show with where each goes, by canvas; without what a hand-off's own program makes. */
export function canvasEncodesOf(show: EncodedShow): CanvasEncodes[] {
  const byCanvas = new Map<CanvasName, CanvasEncodes>()
  for (const encode of encodesOf(show)) {
    if (encode.isHandOff || encode.feeds.length === 0) continue
    const known = byCanvas.get(encode.canvas) ?? { canvas: encode.canvas, encodes: [] }
    byCanvas.set(encode.canvas, known)
    known.encodes.push({ encode, outputs: encode.feeds.map((feed) => outputOf(show, feed)) })
  }
  return [...byCanvas.values()]
}
