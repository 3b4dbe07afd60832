import type { OnAirLane, OnAirMessage } from '@green-mantle/core/on-air'
import type { Happening } from '@green-mantle/core/night'
import type { CanvasName } from '@green-mantle/core/show'
import type { CanvasFeed } from './canvasFeed'
import { OnAirCanvas } from './onAirCanvas'

/** A picture of the standby scene is written when it is due, four at most at a time. */
const tickMilliseconds = 60

interface OneLane {
  lane: OnAirLane
  canvas: OnAirCanvas
  /** The share of its bitrate that is wanted now. */
  share: () => number
}

const keyOf = ({ canvas, lane }: { canvas: CanvasName; lane: number }): string =>
  `${canvas} ${lane}`

/** The canvases of a show that come from its on-air window, in all lanes; each hears the same. */
export class OnAirCanvases {
  private readonly lanes = new Map<string, OneLane>()
  private readonly ticking: ReturnType<typeof setInterval>

  constructor(private readonly log: (happening: Happening) => void) {
    this.ticking = setInterval(() => {
      for (const { canvas } of this.lanes.values()) canvas.tick()
    }, tickMilliseconds)
    this.ticking.unref()
  }

  add(lane: OnAirLane, feed: CanvasFeed, share: () => number = () => 1): void {
    const name = lane.canvas
    // All lanes of a canvas come and go together: it is said once.
    const isFirst = this.firstOf(name) === undefined
    const said = {
      standby: `The on-air window is away: its standby scene goes out on the ${name} canvas.`,
      back: `The on-air window draws the ${name} canvas again.`,
      'too slow': `The encoder of the ${name} canvas does not keep up: pictures are left out up to a keyframe.`,
    } as const
    const canvas = new OnAirCanvas({
      feed,
      size: lane,
      framesPerSecond: lane.framesPerSecond,
      told: (what) => {
        if (isFirst || what === 'too slow') this.log({ kind: 'noted', text: said[what] })
      },
    })
    this.lanes.set(keyOf(lane), { lane, canvas, share })
  }

  private firstOf(name: CanvasName): OnAirCanvas | undefined {
    return [...this.lanes.values()].find(({ lane }) => lane.canvas === name)?.canvas
  }

  /** What the window is to encode now. */
  get wanted(): OnAirLane[] {
    return [...this.lanes.values()].map(({ lane, share }) => ({
      ...lane,
      videoKbps: Math.max(1, Math.round(lane.videoKbps * share())),
    }))
  }
  isStandby(name: CanvasName): boolean {
    return this.firstOf(name)?.isStandby ?? false
  }

  take(message: OnAirMessage): void {
    if (message.kind !== 'sound') this.lanes.get(keyOf(message))?.canvas.take(message)
    else for (const { canvas } of this.lanes.values()) canvas.take(message)
  }

  /** The window is gone: another one joins at its first keyframe. */
  left(): void {
    for (const { canvas } of this.lanes.values()) canvas.left()
  }

  stop(): void {
    clearInterval(this.ticking)
    this.lanes.clear()
  }
}
