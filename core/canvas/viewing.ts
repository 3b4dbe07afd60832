import { viewerScreenSizes } from '../media/pictureScoreTables'
import type { CanvasName, Destination, Size, ViewerScreen, ViewingMode } from '../show'
import type { Box } from './geometry'

function sizeOf(viewer: ViewerScreen): Size {
  const { width, height } = viewerScreenSizes[viewer]
  return { width, height }
}

const turnedPhone: Size = {
  width: viewerScreenSizes.phone.height,
  height: viewerScreenSizes.phone.width,
}

/** How a picture appears on a screen: where it stands, and what share of the screen it gets. */
export interface Appearing {
  screen: Size
  picture: Box
  scale: number
  /** What stays black beside or above and below it. */
  bars: 'none' | 'beside' | 'above and below'
  screenShare: number
}

/** The screen on which a viewing mode is seen. In a feed the phone is upright: the picture there is always vertical. */
export function screenFor(mode: ViewingMode, viewer: ViewerScreen): Size {
  if (mode === 'phone turned') return turnedPhone
  if (mode === 'feed') return sizeOf('phone')
  return sizeOf(viewer)
}

/** Fits a canvas into a screen as its viewers see it, in screen pixels. */
export function appearsOn(canvas: Size, screen: Size): Appearing {
  const scale = Math.min(screen.width / canvas.width, screen.height / canvas.height)
  const [width, height] = [canvas.width * scale, canvas.height * scale]
  const picture = { x: (screen.width - width) / 2, y: (screen.height - height) / 2, width, height }
  const isNarrower = picture.x > 0.5
  const isLower = picture.y > 0.5
  return {
    screen,
    picture,
    scale,
    bars: isNarrower ? 'beside' : isLower ? 'above and below' : 'none',
    screenShare: (width * height) / (screen.width * screen.height),
  }
}

/** Everything a viewer of a destination may have before them: its viewing modes on each of its screens. */
export function viewsOf(
  destination: Pick<Destination, 'canvas' | 'viewers'>,
): { mode: ViewingMode; viewer: ViewerScreen }[] {
  return destination.viewers.flatMap((viewer): { mode: ViewingMode; viewer: ViewerScreen }[] => {
    if (viewer !== 'phone') return [{ mode: 'full screen', viewer }]
    // A feed shows the vertical picture only.
    const modes: ViewingMode[] = ['full screen', 'phone turned']
    if (destination.canvas === 'vertical') modes.unshift('feed')
    return modes.map((mode) => ({ mode, viewer }))
  })
}

/** The cover zones of all destinations in use on a canvas, in shares of its sides. */
export function zonesInUse(
  destinations: readonly Pick<Destination, 'canvas' | 'on' | 'coverZones' | 'name' | 'id'>[],
  canvas: CanvasName,
) {
  return destinations
    .filter((destination) => destination.on && destination.canvas === canvas)
    .flatMap((destination) => destination.coverZones.map((zone) => ({ destination, zone })))
}
