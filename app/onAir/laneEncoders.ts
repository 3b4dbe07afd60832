import type { OnAirLane } from '@green-mantle/core/on-air'
import type { CanvasName } from '@green-mantle/core/show'
import { type CanvasEncoder, type EncodedPicture, newCanvasEncoder } from './canvasEncoder'

interface OneLane {
  lane: OnAirLane
  encoder: CanvasEncoder
  /** Whether what is drawn goes into it already. */
  hasBegun: boolean
  /** The last frame that was encoded, by the lane's own rate. */
  lastIndex: number
  /** Where the canvas is made as large as the lane; null where it is that already. */
  scaled: OffscreenCanvas | null
}

/** A picture of a canvas as it was drawn. */
export interface DrawnPicture {
  canvas: CanvasName
  surface: OffscreenCanvas
  /** The number of the frame, and how many there are a second. */
  index: number
  framesPerSecond: number
}

/** All of a lane but its bitrate, which an encoder changes as it runs. */
const keyOf = ({ videoKbps: _, ...fixed }: OnAirLane): string => JSON.stringify(fixed)

const isOfSize = (surface: OffscreenCanvas, { width, height }: OnAirLane): boolean =>
  surface.width === width && surface.height === height

function scaledTo(lane: OnAirLane, surface: OffscreenCanvas, onto: OffscreenCanvas): void {
  const context = onto.getContext('2d', { alpha: false })
  if (!context) return
  context.imageSmoothingQuality = 'high'
  context.drawImage(surface, 0, 0, lane.width, lane.height)
}

/** The encoders of all lanes that are wanted of this window; a lane's bitrate follows what is wanted as it runs. */
export function newLaneEncoders(told: {
  picture: (lane: OnAirLane, picture: EncodedPicture) => void
  failed: (words: string) => void
}) {
  const lanes = new Map<string, OneLane>()

  return {
    get wanted(): OnAirLane[] {
      return [...lanes.values()].map(({ lane }) => lane)
    },
    /** Ends what is wanted no more and makes what is new ready; the lanes that are new. */
    want(wanted: readonly OnAirLane[]): OnAirLane[] {
      for (const [key, { encoder }] of lanes)
        if (!wanted.some((lane) => keyOf(lane) === key)) {
          encoder.end()
          lanes.delete(key)
        }
      return wanted.filter((lane) => {
        const known = lanes.get(keyOf(lane))
        known?.encoder.setKbps(lane.videoKbps)
        if (known) return false
        const encoder = newCanvasEncoder(lane, {
          picture: (picture) => told.picture(lane, picture),
          failed: told.failed,
        })
        lanes.set(keyOf(lane), { lane, encoder, hasBegun: false, lastIndex: -1, scaled: null })
        return true
      })
    },
    /** From now on what is drawn goes into a lane. */
    begin(lane: OnAirLane): void {
      const known = lanes.get(keyOf(lane))
      if (known) known.hasBegun = true
    },
    /** Hands a picture to every lane of its canvas in which one is due; how many left it out since they do not keep up. */
    encode({ canvas, surface, index, framesPerSecond }: DrawnPicture): number {
      let leftOut = 0
      for (const each of lanes.values()) {
        const { lane, encoder, hasBegun } = each
        if (lane.canvas !== canvas || !hasBegun) continue
        const own = Math.floor((index * lane.framesPerSecond) / framesPerSecond)
        if (own === each.lastIndex) continue
        each.lastIndex = own
        const timestamp = Math.round((own * 1e6) / lane.framesPerSecond)
        const duration = Math.round(1e6 / lane.framesPerSecond)
        let picture = surface
        if (!isOfSize(surface, lane)) {
          picture = each.scaled ??= new OffscreenCanvas(lane.width, lane.height)
          scaledTo(lane, surface, picture)
        }
        if (!encoder.encode(new VideoFrame(picture, { timestamp, duration }))) leftOut += 1
      }
      return leftOut
    },
    end(): void {
      for (const { encoder } of lanes.values()) encoder.end()
      lanes.clear()
    },
  }
}

const pauseMilliseconds = 20
/** Of a still picture half a second says all. */
const standbyShare = 0.5

/** A piece of a lane that stands still, encoded beforehand. */
export async function encodeStill(
  lane: OnAirLane,
  surface: OffscreenCanvas,
  told: { picture: (index: number, bytes: Uint8Array) => void; failed: (words: string) => void },
): Promise<void> {
  let picture = surface
  if (!isOfSize(surface, lane)) {
    picture = new OffscreenCanvas(lane.width, lane.height)
    scaledTo(lane, surface, picture)
  }
  let index = 0
  let hasFailed = false
  const encoder = newCanvasEncoder(lane, {
    picture({ bytes }) {
      told.picture(index, bytes)
      index += 1
    },
    failed(words) {
      hasFailed = true
      told.failed(words)
    },
  })
  const count = Math.ceil(lane.framesPerSecond * standbyShare)
  for (let frame = 0; frame < count && !hasFailed; frame += 1) {
    const timestamp = Math.round((frame * 1e6) / lane.framesPerSecond)
    while (!encoder.encode(new VideoFrame(picture, { timestamp })) && !hasFailed)
      await new Promise((resolve) => setTimeout(resolve, pauseMilliseconds))
  }
  await encoder.flush().catch(() => {})
  encoder.end()
}
