import type { CanvasEncodes } from '../encoding'
import type { CanvasName, Show } from '../show'
import { onAirFramesPerSecond, onAirKbps, onAirKeyframeSeconds } from './drawn'

/** An encode of a canvas as its on-air window makes it, and the number under which it comes. */
export interface OnAirLane {
  canvas: CanvasName
  /** 0 for the one that the server makes others of; each other is passed on as it is. */
  lane: number
  width: number
  height: number
  framesPerSecond: number
  keyframeSeconds: number
  videoKbps: number
}

/** What the server says to an on-air window: what it is to encode now. */
export interface OnAirWanted {
  wanted: OnAirLane[]
}

/** So many numbers of lanes there are. */
export const maxLanes = 16

type OneEncode = CanvasEncodes['encodes'][number]

/**
 * Whether the on-air window makes an encode itself: where all whom it serves lower their bitrate when the
 * line is short, which only an encoder that runs can do, and where it can be handed on.
 */
const isMadeByWindow = ({ encode, outputs }: OneEncode): boolean =>
  encode.rendition.codec === 'h264' &&
  outputs.length > 0 &&
  outputs.every(({ sending }) => sending?.whenBehind === 'lower')

/** The encodes of a canvas by who makes them, the encoder program of the server or the on-air window. */
export function splitByMaker(canvas: CanvasEncodes): {
  byProgram: CanvasEncodes
  byWindow: OneEncode[]
} {
  const byWindow = canvas.encodes.filter(isMadeByWindow).slice(0, maxLanes - 1)
  return {
    byProgram: {
      ...canvas,
      encodes: canvas.encodes.filter((each) => !byWindow.includes(each)),
    },
    byWindow,
  }
}

/** The lane of the one encode of a canvas that the server makes others of. */
export function canvasLane(show: Show, canvas: CanvasName): OnAirLane {
  const size = show.canvasPair[canvas]
  const framesPerSecond = onAirFramesPerSecond(show, canvas)
  return {
    ...{ canvas, lane: 0, width: size.width, height: size.height, framesPerSecond },
    ...{ keyframeSeconds: onAirKeyframeSeconds, videoKbps: onAirKbps(size, framesPerSecond) },
  }
}

/** The lane of an encode that the window makes as planned. */
export const encodeLane = (
  canvas: CanvasName,
  lane: number,
  { rendition }: OneEncode['encode'],
): OnAirLane => ({
  ...{ canvas, lane, width: rendition.width, height: rendition.height },
  framesPerSecond: rendition.framesPerSecond,
  keyframeSeconds: rendition.keyframeIntervalSeconds,
  videoKbps: rendition.videoBitrateKbps,
})
