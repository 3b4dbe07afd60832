import type { Size } from '../show'
import type { Box } from './geometry'

/** EBU R 95: for 16:9, what matters stays this share of each side in from the edge. */
export const safeAreas = [
  { name: 'action safe', insetShare: 0.035 },
  { name: 'graphics safe', insetShare: 0.05 },
] as const

/** The safe areas of a canvas, in its pixels. */
export function safeAreaBoxes({ width, height }: Size): (Box & { name: string })[] {
  return safeAreas.map(({ name, insetShare }) => ({
    name,
    x: width * insetShare,
    y: height * insetShare,
    width: width * (1 - 2 * insetShare),
    height: height * (1 - 2 * insetShare),
  }))
}
