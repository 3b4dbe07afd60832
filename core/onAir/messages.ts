import { type CanvasName, canvasNames, type Mix, mixes } from '../show'
import { maxLanes } from './lanes'

/** Sound on its way from the on-air window to the server. */
export const onAirSound = { sampleRateHz: 48_000, channels: 2, bytesASample: 2 } as const
export const soundFrameBytes = onAirSound.channels * onAirSound.bytesASample

/** What one message may hold; more is out of form. */
export const maxPictureBytes = 12_000_000
export const maxSoundBytes = 400_000
/** A standby scene is a second of its canvas. */
export const maxStandbyPictures = 240

/** What the on-air window hands the server, piece by piece. */
export type OnAirMessage =
  /** One encoded picture, H.264 as a byte stream with start codes (ITU-T H.264, Annex B). */
  | {
      kind: 'picture'
      canvas: CanvasName
      lane: number
      isKey: boolean
      /** When it is due, by the window's clock. */
      atMicroseconds: number
      bytes: Uint8Array
    }
  /** Signed 16-bit samples, left and right in turn. */
  | { kind: 'sound'; mix: Mix; firstSample: number; bytes: Uint8Array }
  /** One picture of the standby scene; the first of them begins it anew. */
  | { kind: 'standby'; canvas: CanvasName; lane: number; index: number; bytes: Uint8Array }

const kinds = ['picture', 'sound', 'standby'] as const
const headBytes = 12
export const maxMessageBytes = headBytes + maxPictureBytes
/** Four months of microseconds. */
const maxPosition = 1e13

const positionOf = (message: OnAirMessage): number => {
  if (message.kind === 'picture') return message.atMicroseconds
  return message.kind === 'sound' ? message.firstSample : message.index
}

/** A message as bytes: kind, canvas or mix, whether it is a keyframe, the lane, the position as a double, the rest. */
export function onAirBytes(message: OnAirMessage): Uint8Array<ArrayBuffer> {
  const { bytes } = message
  const whole = new Uint8Array(headBytes + bytes.length)
  const view = new DataView(whole.buffer)
  view.setUint8(0, kinds.indexOf(message.kind))
  view.setUint8(
    1,
    message.kind === 'sound' ? mixes.indexOf(message.mix) : canvasNames.indexOf(message.canvas),
  )
  view.setUint8(2, message.kind === 'picture' && message.isKey ? 1 : 0)
  view.setUint8(3, message.kind === 'sound' ? 0 : message.lane)
  view.setFloat64(4, positionOf(message), true)
  whole.set(bytes, headBytes)
  return whole
}

/** The message that bytes stand for; null where they are out of form. */
export function onAirMessage(whole: Uint8Array): OnAirMessage | null {
  if (whole.length <= headBytes) return null
  const view = new DataView(whole.buffer, whole.byteOffset, whole.byteLength)
  const kind = kinds[view.getUint8(0)]
  const [which, flags, lane] = [view.getUint8(1), view.getUint8(2), view.getUint8(3)]
  const position = view.getFloat64(4, true)
  const bytes = whole.subarray(headBytes)
  const isInForm = flags <= 1 && lane < maxLanes && position >= 0 && position <= maxPosition
  if (kind === undefined || !isInForm) return null
  if (kind === 'sound') {
    const mix = mixes[which]
    const isWhole = Number.isInteger(position) && bytes.length % soundFrameBytes === 0
    if (mix === undefined || !isWhole || flags !== 0 || lane !== 0 || bytes.length > maxSoundBytes)
      return null
    return { kind, mix, firstSample: position, bytes }
  }
  const canvas = canvasNames[which]
  if (canvas === undefined || bytes.length > maxPictureBytes) return null
  if (kind === 'picture')
    return { kind, canvas, lane, isKey: flags === 1, atMicroseconds: position, bytes }
  if (!Number.isInteger(position) || position >= maxStandbyPictures || flags !== 0) return null
  return { kind, canvas, lane, index: position, bytes }
}
