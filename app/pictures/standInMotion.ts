/** How a drawing moves: it sways, and a light crosses it, so that frame rates can be told apart by eye. */
interface Motion {
  /** Of its width. */
  swayShare: number
  turnDegrees: number
  light: string
  lightShare: number
}

const still: Motion = { swayShare: 0, turnDegrees: 0, light: '#2f5d3a', lightShare: 0.012 }
const motions: Record<string, Motion> = {
  'bench-camera': { swayShare: 0.006, turnDegrees: 0.3, light: '#f2e6a6', lightShare: 0.008 },
  'petal-macro': { swayShare: 0.01, turnDegrees: 1.6, light: '#f2e6a6', lightShare: 0.006 },
  'stand-in-camera': { swayShare: 0.008, turnDegrees: 0.5, light: '#f2e6a6', lightShare: 0.01 },
  'stand-in-guest': { swayShare: 0.01, turnDegrees: 0.8, light: '#f2e6a6', lightShare: 0.01 },
  'stand-in-media': { swayShare: 0.03, turnDegrees: 2, light: '#fffdf6', lightShare: 0.012 },
}

/** A light goes round once in so many seconds. */
const roundSeconds = 4

/** Paints a drawing as it is some seconds into its motion. */
export function paintMoving(
  context: CanvasRenderingContext2D,
  drawing: string,
  bitmap: CanvasImageSource,
  seconds: number,
): void {
  const { width, height } = context.canvas
  const { swayShare, turnDegrees, light, lightShare } = motions[drawing] ?? still
  const phase = (2 * Math.PI * seconds) / roundSeconds
  // Larger by what the sway could uncover.
  const zoom = 1 + 2 * swayShare + (turnDegrees * Math.PI) / 180
  context.setTransform(1, 0, 0, 1, width / 2, height / 2)
  context.rotate(((turnDegrees * Math.PI) / 180) * Math.sin(phase))
  context.scale(zoom, zoom)
  context.translate(swayShare * width * Math.sin(phase * 0.7), 0)
  context.drawImage(bitmap, -width / 2, -height / 2, width, height)
  context.setTransform(1, 0, 0, 1, 0, 0)
  context.fillStyle = light
  context.beginPath()
  context.arc(
    width * (0.5 + 0.4 * Math.cos(phase)),
    height * (0.5 + 0.35 * Math.sin(2 * phase)),
    Math.max(2, lightShare * width),
    0,
    2 * Math.PI,
  )
  context.fill()
}
