import { onAirKbps, onAirKeyframeSeconds } from '@green-mantle/core/on-air'
import type { Size } from '@green-mantle/core/show'

/** An encoder that has so many pictures before it does not keep up; the next one is left out. */
const maxQueued = 6

/** H.264 High at the first level that takes the size: 4.2 up to 1920×1080 at 60, else 5.2 (ITU-T H.264, table A-1). */
const codecFor = ({ width, height }: Size): string =>
  width * height <= 1920 * 1088 ? 'avc1.64002A' : 'avc1.640034'

const canvasEncoderConfig = (size: Size, framesPerSecond: number): VideoEncoderConfig => ({
  codec: codecFor(size),
  ...{ width: size.width, height: size.height, framerate: framesPerSecond },
  bitrate: onAirKbps(size, framesPerSecond) * 1000,
  latencyMode: 'realtime',
  avc: { format: 'annexb' },
})

/** What an encoder gives for each picture. */
export interface EncodedPicture {
  isKey: boolean
  atMicroseconds: number
  bytes: Uint8Array
}

/** The one encode of a canvas that the server makes all others of; made anew at a keyframe where it fails. */
export function newCanvasEncoder(
  size: Size,
  framesPerSecond: number,
  told: { picture: (picture: EncodedPicture) => void; failed: (words: string) => void },
) {
  const keyframeEvery = Math.round(framesPerSecond * onAirKeyframeSeconds)
  let encoder: VideoEncoder | undefined
  let sinceKey = Infinity
  let isOver = false

  function open(): VideoEncoder {
    const made = new VideoEncoder({
      output(chunk) {
        const bytes = new Uint8Array(chunk.byteLength)
        chunk.copyTo(bytes)
        told.picture({ isKey: chunk.type === 'key', atMicroseconds: chunk.timestamp, bytes })
      },
      error(error) {
        if (encoder === made) encoder = undefined
        told.failed(error.message)
      },
    })
    made.configure(canvasEncoderConfig(size, framesPerSecond))
    sinceKey = Infinity
    return made
  }

  return {
    /** Encodes a picture; false where the encoder does not keep up and it is left out. Closes the frame. */
    encode(frame: VideoFrame): boolean {
      try {
        if (isOver) return true
        encoder ??= open()
        if (encoder.encodeQueueSize > maxQueued) return false
        const isKey = sinceKey >= keyframeEvery
        encoder.encode(frame, { keyFrame: isKey })
        sinceKey = isKey ? 1 : sinceKey + 1
        return true
      } catch (error) {
        told.failed((error as Error).message)
        encoder = undefined
        return false
      } finally {
        frame.close()
      }
    },
    /** Resolves when all that was handed over has come out. */
    flush: () => encoder?.flush() ?? Promise.resolve(),
    end(): void {
      isOver = true
      if (encoder && encoder.state !== 'closed') encoder.close()
      encoder = undefined
    },
  }
}
export type CanvasEncoder = ReturnType<typeof newCanvasEncoder>
