import type { Box } from '../canvas'
import type { Size, Trim } from '../show'

/**
 * The largest part of a region with these proportions (width ÷ height), or as near to them as a
 * part that has to stay whole allows; placed about the middle of that part. All in source pixels.
 */
export function cropTowards(region: Box, aspect: number, whole: Box): Box {
  const regionAspect = region.width / region.height
  const isNarrower = aspect < regionAspect
  const width = isNarrower
    ? Math.min(region.width, Math.max(region.height * aspect, whole.width))
    : region.width
  const height = isNarrower
    ? region.height
    : Math.min(region.height, Math.max(region.width / aspect, whole.height))
  return {
    x: placed(region.x, region.width, width, whole.x, whole.width),
    y: placed(region.y, region.height, height, whole.y, whole.height),
    width,
    height,
  }
}

/** The start of a stretch within a longer one, about the middle of a part that it has to hold. */
function placed(
  start: number,
  length: number,
  wanted: number,
  wholeStart: number,
  wholeLength: number,
): number {
  const about = wholeStart + wholeLength / 2 - wanted / 2
  return Math.min(Math.max(about, start), start + length - wanted)
}

/** The trim that leaves a part of a source; whole pixels, so that nothing of the part is lost. */
export function trimTo(native: Size, part: Box): Trim {
  return {
    left: Math.max(0, Math.floor(part.x + 1e-6)),
    top: Math.max(0, Math.floor(part.y + 1e-6)),
    right: Math.max(0, Math.floor(native.width - part.x - part.width + 1e-6)),
    bottom: Math.max(0, Math.floor(native.height - part.y - part.height + 1e-6)),
  }
}
