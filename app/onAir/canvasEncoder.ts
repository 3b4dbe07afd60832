import type { OnAirLane } from '@green-mantle/core/on-air'

/** An encoder that has so many pictures before it does not keep up; the next one is left out. */
const maxQueued = 6

type Encoded = Omit<OnAirLane, 'canvas'>

/** H.264 High at the first level that takes the size: 4.2 up to 1920×1080 at 60, else 5.2 (ITU-T H.264, table A-1). */
const codecFor = ({ width, height }: Encoded): string =>
  width * height <= 1920 * 1088 ? 'avc1.64002A' : 'avc1.640034'

const canvasEncoderConfig = (encoded: Encoded): VideoEncoderConfig => ({
  codec: codecFor(encoded),
  ...{ width: encoded.width, height: encoded.height, framerate: encoded.framesPerSecond },
  bitrate: encoded.videoKbps * 1000,
  // What is sent as it is has a line to keep to.
  bitrateMode: encoded.lane === 0 ? 'variable' : 'constant',
  latencyMode: 'realtime',
  avc: { format: 'annexb' },
})

/** What an encoder gives for each picture. */
export interface EncodedPicture {
  isKey: boolean
  atMicroseconds: number
  bytes: Uint8Array
}

/** An encoder of one lane of a canvas; made anew at a keyframe where it fails. */
export function newCanvasEncoder(
  encoded: Encoded,
  told: { picture: (picture: EncodedPicture) => void; failed: (words: string) => void },
) {
  const frameMicroseconds = 1e6 / encoded.framesPerSecond
  // By time and not by count: frames that are left out make no group longer.
  const keyframeMicroseconds = 1e6 * encoded.keyframeSeconds - frameMicroseconds / 2
  let { videoKbps } = encoded
  let encoder: VideoEncoder | undefined
  let lastKeyAt = -Infinity
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
    made.configure(canvasEncoderConfig({ ...encoded, videoKbps }))
    lastKeyAt = -Infinity
    return made
  }

  return {
    /** Encodes a picture; false where the encoder does not keep up and it is left out. Closes the frame. */
    encode(frame: VideoFrame): boolean {
      try {
        if (isOver) return true
        encoder ??= open()
        if (encoder.encodeQueueSize > maxQueued) return false
        const isKey = frame.timestamp - lastKeyAt >= keyframeMicroseconds
        encoder.encode(frame, { keyFrame: isKey })
        if (isKey) lastKeyAt = frame.timestamp
        return true
      } catch (error) {
        told.failed((error as Error).message)
        encoder = undefined
        return false
      } finally {
        frame.close()
      }
    },
    /** Changes the bitrate of the encoder as it runs. */
    setKbps(kbps: number): void {
      if (kbps === videoKbps) return
      videoKbps = kbps
      try {
        encoder?.configure(canvasEncoderConfig({ ...encoded, videoKbps }))
      } catch (error) {
        // It has just ended by itself; the next one has the new bitrate.
        told.failed((error as Error).message)
        encoder = undefined
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
