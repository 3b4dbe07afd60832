import {
  finenessModelled,
  logShareOf,
  measuredFineness,
  pictureClasses,
  scoreFromSsim,
  sizeTerm,
} from '../media'
import { type MeasuredPoint, type OwnPicture, type PictureKind, pictureKinds } from '../show'

type Measured = Pick<OwnPicture, 'points' | 'clip' | 'effort'>
type Fit = Pick<OwnPicture, 'nearestKind' | 'cleanBitrateKbps'>

/** Between these (kb/s) a clean picture of 1920×1080 at 60 frames a second is looked for. */
export const cleanBitrateBoundsKbps = { min: 200, max: 400_000 } as const

const valuesOf = ({ nearestKind, cleanBitrateKbps }: Fit) => ({
  ...pictureClasses[nearestKind],
  cleanBitrateKbps,
})

const sizeOf = (point: MeasuredPoint, { clip }: Measured, fit: Fit): number =>
  sizeTerm(valuesOf(fit), (point.width * point.height) / (clip.width * clip.height))

/** What the model's form alone says of a point, 0 to 100; beside an original of its own frame rate. */
export const modelledScore = (point: MeasuredPoint, measured: Measured, fit: Fit): number =>
  100 * finenessModelled(point, valuesOf(fit), measured.effort) * sizeOf(point, measured, fit)

/** What the points say of one, 0 to 100, where `measured` need not have it. */
export function interpolatedScore(point: MeasuredPoint, measured: Measured, fit: Fit): number {
  const values = valuesOf(fit)
  const { at } = measuredFineness(measured, values)
  const fineness = at(point)(logShareOf(point, values, measured.effort))
  return 100 * fineness * sizeOf(point, measured, fit)
}

function squaredError(measured: Measured, fit: Fit): number {
  return measured.points.reduce(
    (sum, point) => sum + (modelledScore(point, measured, fit) - scoreFromSsim(point.ssim)) ** 2,
    0,
  )
}

const coarseSteps = 60
const refinements = 40
const goldenShare = (Math.sqrt(5) - 1) / 2

/** The bitrate of a clean picture with the least squared error of one kind's form: a scan, then golden section. */
function cleanBitrateFor(measured: Measured, nearestKind: PictureKind): number {
  const { min, max } = cleanBitrateBoundsKbps
  const ratio = (max / min) ** (1 / coarseSteps)
  const errorAt = (log: number): number =>
    squaredError(measured, { nearestKind, cleanBitrateKbps: Math.exp(log) })
  const errors = Array.from({ length: coarseSteps + 1 }, (_, step) =>
    errorAt(Math.log(min * ratio ** step)),
  )
  // Where every encode was clean already, any fewer bits would do as well: the most cautious is taken.
  const best = errors.lastIndexOf(Math.min(...errors))
  let low = Math.log(min * ratio ** Math.max(0, best - 1))
  let high = Math.log(min * ratio ** Math.min(coarseSteps, best + 1))
  for (let round = 0; round < refinements; round += 1) {
    const left = high - goldenShare * (high - low)
    const right = low + goldenShare * (high - low)
    if (errorAt(left) < errorAt(right)) high = right
    else low = left
  }
  return Math.exp((low + high) / 2)
}

/**
 * The bits that a picture needs, from its points: least squares over the bitrate of a clean picture
 * within bounds, for each kind's exponents, and the kind that fits best.
 */
export function fitPicture(measured: Measured): Fit {
  const fits = pictureKinds.map((nearestKind) => ({
    nearestKind,
    cleanBitrateKbps: cleanBitrateFor(measured, nearestKind),
  }))
  return fits.reduce((best, fit) =>
    squaredError(measured, fit) < squaredError(measured, best) ? fit : best,
  )
}

/** How far off scores are, in points. */
export interface ScoreErrors {
  mean: number
  max: number
}

const errorsOf = (differences: readonly number[]): ScoreErrors => ({
  mean: differences.reduce((sum, each) => sum + each, 0) / Math.max(1, differences.length),
  max: Math.max(0, ...differences),
})

/** How far the form of a picture with these values is off at its points. */
export const modelErrors = (measured: Measured, fit: Fit): ScoreErrors =>
  errorsOf(
    measured.points.map((point) =>
      Math.abs(modelledScore(point, measured, fit) - scoreFromSsim(point.ssim)),
    ),
  )

/**
 * How far off the points between are: each that lies between two others of its size and frame rate,
 * foretold from all but itself; null where none does. What lies between is read from the points beside it,
 * so that the fit without it would say the same.
 */
export function betweenErrors(measured: Measured & Fit): ScoreErrors | null {
  const isBetween = (point: MeasuredPoint): boolean => {
    const rates = measured.points
      .filter(
        ({ width, height, framesPerSecond }) =>
          width === point.width &&
          height === point.height &&
          framesPerSecond === point.framesPerSecond,
      )
      .map(({ videoBitrateKbps }) => videoBitrateKbps)
    return (
      point.videoBitrateKbps > Math.min(...rates) && point.videoBitrateKbps < Math.max(...rates)
    )
  }
  const between = measured.points.filter(isBetween)
  if (between.length === 0) return null
  return errorsOf(
    between.map((point) => {
      const others = { ...measured, points: measured.points.filter((each) => each !== point) }
      const said = interpolatedScore(point, others, measured)
      return Math.abs(said - scoreFromSsim(point.ssim))
    }),
  )
}

/** How many times the bits of a kind of picture this one needs for a clean picture of the same size and rate. */
export const bitsAgainst = (
  { cleanBitrateKbps }: Pick<OwnPicture, 'cleanBitrateKbps'>,
  kind: PictureKind,
): number => cleanBitrateKbps / pictureClasses[kind].cleanBitrateKbps
