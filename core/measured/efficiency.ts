import { codecEfficiencyOf, monotoneCurve } from '../media'
import type { Codec, Computer, Device, Effort, Throughput } from '../show'

/** An encode held against its original. */
export interface LikenessPoint {
  videoBitrateKbps: number
  /** Structural similarity of luma, 0 to 1. */
  ssim: number
}

/** The encodes of one codec and effort of a device. */
export interface EncoderPoints {
  codec: Codec
  effort: Effort
  points: readonly LikenessPoint[]
}

/** The picture that what an encoder gets out of a bit is measured by. */
export const efficiencyClip = { width: 960, height: 540, framesPerSecond: 30, seconds: 2 } as const

/** Bits a pixel of the encodes in H.264; what its table says that a codec saves is left out of the others', so that all are about as good. */
const bitsAPixel = [0.03, 0.07, 0.16] as const

/** kb/s of the encodes that tell what a codec's encoders get out of a bit. */
export function efficiencyBitratesKbps(codec: Codec): number[] {
  const { width, height, framesPerSecond } = efficiencyClip
  return bitsAPixel.map((bits) =>
    Math.round((width * height * framesPerSecond * bits) / 1000 / codecEfficiencyOf(codec)),
  )
}

/** Likeness in decibels, in which curves over the logarithm of the bitrate are about straight. */
const decibels = (ssim: number): number => -10 * Math.log10(Math.max(1e-6, 1 - ssim))

/** ln(kb/s) over the likeness that it buys; null where more bits never bought any. */
function bitsOver(points: readonly LikenessPoint[]) {
  const rising: { place: number; value: number }[] = []
  for (const { videoBitrateKbps, ssim } of [...points].sort(
    (a, b) => a.videoBitrateKbps - b.videoBitrateKbps,
  )) {
    const place = decibels(ssim)
    if (videoBitrateKbps > 0 && place > (rising.at(-1)?.place ?? -Infinity))
      rising.push({ place, value: Math.log(videoBitrateKbps) })
  }
  const [first, last] = [rising[0], rising.at(-1)]
  if (!first || !last || rising.length < 2) return null
  const at = monotoneCurve({
    places: rising.map(({ place }) => place),
    values: rising.map(({ value }) => value),
  })
  return { from: first.place, to: last.place, at }
}

const integrationSteps = 60

/** Of the likeness that the reference reaches, how much an encoder has to reach too: a mean over less says little. */
const overlap = { wanted: 0.5, min: 0.25 } as const
const maxFurtherEncodes = 2

/** The likeness that two encoders both reach, as a share of what the first reaches; 0 where it is nothing. */
function sharedLikeness(
  reference: readonly LikenessPoint[],
  other: readonly LikenessPoint[],
): number {
  const [a, b] = [bitsOver(reference), bitsOver(other)]
  if (!a || !b) return 0
  return Math.max(0, Math.min(a.to, b.to) - Math.max(a.from, b.from)) / (a.to - a.from)
}

/**
 * The kb/s at which to encode once more where an encoder's points have too little in common with those
 * of the reference: half of the lowest where they are all too good, twice the highest where they are
 * not good enough. null where they tell enough, or there were so many already.
 */
export function furtherBitrateKbps(
  { codec, points }: Pick<EncoderPoints, 'codec' | 'points'>,
  reference: readonly LikenessPoint[],
): number | null {
  const isEnough =
    points.length === 0 ||
    points.length >= efficiencyBitratesKbps(codec).length + maxFurtherEncodes ||
    sharedLikeness(reference, points) >= overlap.wanted
  if (isEnough) return null
  const bitrates = points.map(({ videoBitrateKbps }) => videoBitrateKbps)
  const worst = (of: readonly LikenessPoint[]): number => Math.min(...of.map(({ ssim }) => ssim))
  const isTooGood = worst(points) > worst(reference)
  return Math.max(1, Math.round(isTooGood ? Math.min(...bitrates) / 2 : Math.max(...bitrates) * 2))
}

/**
 * How many times the bits of the one encoder another needs for the same likeness: the mean of the
 * logarithm over all that both reach (Bjøntegaard 2001, VCEG-M33, "BD rate"; with curves that never fall
 * instead of cubics). null where they reach nothing in common.
 */
export function bitsForTheSame(
  one: readonly LikenessPoint[],
  other: readonly LikenessPoint[],
): number | null {
  const [a, b] = [bitsOver(one), bitsOver(other)]
  if (!a || !b) return null
  const from = Math.max(a.from, b.from)
  const to = Math.min(a.to, b.to)
  if (!(to > from)) return null
  let sum = 0
  for (let step = 0; step < integrationSteps; step += 1) {
    const place = from + ((step + 0.5) / integrationSteps) * (to - from)
    sum += b.at(place) - a.at(place)
  }
  return Math.exp(sum / integrationSteps)
}

const limits = { min: 0.05, max: 20 } as const

/**
 * What the encoders get out of a bit, with the reference, software H.264 at its finest, as 1; without
 * those that are as good or as bad as it is over too little of what it reaches.
 */
export function efficienciesFrom(
  encoders: readonly EncoderPoints[],
  reference: readonly LikenessPoint[],
): (Pick<Throughput, 'codec' | 'effort'> & { efficiency: number })[] {
  return encoders.flatMap(({ codec, effort, points }) => {
    const times = bitsForTheSame(reference, points)
    if (times === null || sharedLikeness(reference, points) < overlap.min) return []
    const efficiency = Math.min(limits.max, Math.max(limits.min, 1 / times))
    return [{ codec, effort, efficiency: Number(efficiency.toPrecision(3)) }]
  })
}

/** Throughputs with what their encoders were measured to get out of a bit. */
export const withEfficiencies = (
  throughputs: readonly Throughput[],
  efficiencies: readonly Pick<Throughput, 'codec' | 'effort' | 'efficiency'>[],
): Throughput[] =>
  throughputs.map((each) => {
    const known = efficiencies.find(
      ({ codec, effort }) => codec === each.codec && effort === each.effort,
    )
    return known?.efficiency === undefined ? each : { ...each, efficiency: known.efficiency }
  })

/** Whether of any of a device's encoders is known what it gets out of a bit. */
export const hasEfficiencies = ({ throughputs }: Pick<Device, 'throughputs'>): boolean =>
  throughputs.some(({ efficiency }) => efficiency !== undefined)

/**
 * A computer with what an earlier measurement of the same processor and program knew of its encoders and
 * it does not: a quick look does not ask what they get out of a bit, which stays as it was.
 */
export function withEarlierEfficiencies(computer: Computer, earlier: Computer | null): Computer {
  const [now, then] = [computer.measured, earlier?.measured]
  if (!now || !then || now.processor !== then.processor || now.program !== then.program)
    return computer
  // What was measured by two pictures is not comparable.
  if (computer.devices.some(hasEfficiencies) && now.efficiencyClip !== then.efficiencyClip)
    return computer
  // One that was stopped before it knew anything of them names its clip all the same.
  const { efficiencyClip: _, ...measured } = now
  const { efficiencyClip } = then
  return {
    ...computer,
    measured: { ...measured, ...(efficiencyClip !== undefined && { efficiencyClip }) },
    devices: computer.devices.map((device) => {
      const before = earlier?.devices.find(({ id }) => id === device.id)
      return before && !hasEfficiencies(device)
        ? { ...device, throughputs: withEfficiencies(device.throughputs, before.throughputs) }
        : device
    }),
  }
}
