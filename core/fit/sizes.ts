import { type Rules, type Size, sideLimitsPixels } from '../show'

const pixelsOf = ({ width, height }: Size): number => width * height

const even = (pixels: number): number =>
  Math.max(sideLimitsPixels.min, 2 * Math.floor(pixels / 2 + 1e-9))

/** A size of the canvas's shape, no larger than either: sides are even. */
export function sizeWithin(canvas: Size, bounds: Size): Size {
  const scale = Math.min(1, bounds.width / canvas.width, bounds.height / canvas.height)
  return { width: even(canvas.width * scale), height: even(canvas.height * scale) }
}

/** Whether a picture of one size fills the other without bars, to a pixel's rounding. */
export function sameShape(a: Size, b: Size): boolean {
  return (
    Math.abs(a.width * b.height - b.width * a.height) <=
    2 * Math.max(a.width, a.height, b.width, b.height)
  )
}

/** Whether a destination's rules accept a size. */
export function acceptsSize(rules: Rules, size: Size): boolean {
  const { sizes } = rules
  return sizes.type === 'up to'
    ? size.width <= sizes.width && size.height <= sizes.height
    : sizes.sizes.some(({ width, height }) => width === size.width && height === size.height)
}

/** The sizes worth offering on one canvas: the usual steps of its shape, or what the rules list. */
export function sizesToOffer(rules: Rules, canvas: Size): Size[] {
  if (rules.sizes.type === 'one of') return [...rules.sizes.sizes]
  const shortSides = [2160, 1440, 1080, 720, 540, 480, 360, 240]
  const shortest = Math.min(canvas.width, canvas.height)
  const steps = [
    canvas,
    ...shortSides
      .filter((side) => side < shortest)
      .map((side) => ({
        width: even((canvas.width * side) / shortest),
        height: even((canvas.height * side) / shortest),
      })),
  ]
  return steps.filter((size) => acceptsSize(rules, size))
}

/** The accepted size nearest to the wanted one from below, in the canvas's shape; failing that the smallest accepted. */
export function nearestAcceptedSize(rules: Rules, wanted: Size, canvas: Size): Size {
  if (rules.sizes.type === 'up to') {
    const { width, height } = rules.sizes
    return sizeWithin(canvas, {
      width: Math.min(wanted.width, width),
      height: Math.min(wanted.height, height),
    })
  }
  const listed = [...rules.sizes.sizes].sort((a, b) => pixelsOf(b) - pixelsOf(a))
  const inShape = listed.filter((size) => sameShape(size, canvas))
  const candidates = inShape.length > 0 ? inShape : listed
  return (
    candidates.find((size) => pixelsOf(size) <= pixelsOf(wanted)) ?? (candidates.at(-1) as Size)
  )
}
