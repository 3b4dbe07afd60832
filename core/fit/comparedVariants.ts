import type { CurveVariant } from '../media'
import type { Rules, Size } from '../show'
import { acceptedFrameRates } from './rules'

const comparedSizes = 3
const comparedFrameRates: readonly number[] = [30, 60]

/** Sizes and frame rates worth comparing for a send: the largest few, at the usual rates that are accepted and reached. */
export function comparedVariants(
  rules: Rules,
  sizes: readonly Size[],
  canvasFramesPerSecond: number,
): CurveVariant[] {
  const rates = acceptedFrameRates(rules).filter(
    (rate) => comparedFrameRates.includes(rate) && rate <= canvasFramesPerSecond,
  )
  return sizes
    .slice(0, comparedSizes)
    .flatMap(({ width, height }) =>
      rates.map((framesPerSecond) => ({ width, height, framesPerSecond })),
    )
}
