import { type CanvasEncodes, canvasEncodesOf } from '../encoding'
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

/**
 * Whoever is planned to lower and drops frames all the same, by name: an encode that the encoder program
 * makes keeps its rate. `isDrawnByWindow` says of a canvas whether it comes from the on-air window.
 */
export function dropsInstead(
  show: Show,
  isDrawnByWindow: (canvas: CanvasName) => boolean,
): string[] {
  const kept = canvasEncodesOf(show).flatMap((canvas) =>
    (isDrawnByWindow(canvas.canvas) ? splitByMaker(canvas).byProgram : canvas).encodes.flatMap(
      ({ outputs }) => outputs,
    ),
  )
  const owners = new Set(
    kept.filter(({ sending }) => sending?.whenBehind === 'lower').map(({ feed }) => feed.ownerId),
  )
  return show.destinations.filter(({ id }) => owners.has(id)).map(({ name }) => name)
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

/** All that the on-air window would encode of a show that is drawn by it alone. */
export const lanesOf = (show: Show): OnAirLane[] =>
  canvasEncodesOf(show).flatMap((canvas) => {
    const { byProgram, byWindow } = splitByMaker(canvas)
    return [
      ...(byProgram.encodes.length > 0 ? [canvasLane(show, canvas.canvas)] : []),
      ...byWindow.map(({ encode }, index) => encodeLane(canvas.canvas, index + 1, encode)),
    ]
  })
