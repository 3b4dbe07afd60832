import { onAirFramesPerSecond, type OnAirMessage } from '@green-mantle/core/on-air'
import type { Happening } from '@green-mantle/core/night'
import { type CanvasName, canvasNames, type Show } from '@green-mantle/core/show'
import type { CanvasFeed } from './canvasFeed'
import { OnAirCanvas } from './onAirCanvas'

/** A picture of the standby scene is written when it is due, four at most at a time. */
const tickMilliseconds = 60

/** The canvases of a show that come from its on-air window; both hear the same. */
export class OnAirCanvases {
  private readonly canvases = new Map<CanvasName, OnAirCanvas>()
  private readonly ticking: ReturnType<typeof setInterval>

  constructor(
    private readonly show: Show,
    private readonly log: (happening: Happening) => void,
  ) {
    this.ticking = setInterval(() => {
      for (const canvas of this.canvases.values()) canvas.tick()
    }, tickMilliseconds)
    this.ticking.unref()
  }

  add(name: CanvasName, feed: CanvasFeed): void {
    const said = {
      standby: `The on-air window is away: its standby scene goes out on the ${name} canvas.`,
      back: `The on-air window draws the ${name} canvas again.`,
      'too slow': `The encoder of the ${name} canvas does not keep up: pictures are left out up to a keyframe.`,
    } as const
    this.canvases.set(
      name,
      new OnAirCanvas({
        feed,
        size: this.show.canvasPair[name],
        framesPerSecond: onAirFramesPerSecond(this.show, name),
        told: (what) => this.log({ kind: 'noted', text: said[what] }),
      }),
    )
  }

  get wanted(): CanvasName[] {
    return canvasNames.filter((name) => this.canvases.has(name))
  }
  isStandby(name: CanvasName): boolean {
    return this.canvases.get(name)?.isStandby ?? false
  }

  take(message: OnAirMessage): void {
    if (message.kind !== 'sound') this.canvases.get(message.canvas)?.take(message)
    else for (const canvas of this.canvases.values()) canvas.take(message)
  }

  /** The window is gone: another one joins at its first keyframe. */
  left(): void {
    for (const canvas of this.canvases.values()) canvas.left()
  }

  stop(): void {
    clearInterval(this.ticking)
    this.canvases.clear()
  }
}
