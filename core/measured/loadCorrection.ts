import { type Computer, plannedShareLimitsPercent } from '../show'

/** What one process took of the processor, 1 = all of it, against what was planned for its encodes. */
export interface TakenShare {
  plannedShare: number | null
  processorShare: number | null
  /** What of it decoding and scaling the canvas takes at real time, which is no encode's load. */
  pictureShare: number | null
  /** Against real time; null where it never got going. */
  speed: number | null
}

/** Nearer than this the plan's loads are right. */
const loadTolerance = 0.1

/**
 * By how much the plan's loads on the processor were off: what the encodes took, had they kept up, over
 * what was planned. null where either is not known or they agree.
 */
export function loadCorrection(processes: readonly TakenShare[]): number | null {
  let planned = 0
  let taken = 0
  for (const { plannedShare, processorShare, pictureShare, speed } of processes) {
    if (plannedShare === null || processorShare === null || pictureShare === null || !speed)
      return null
    planned += plannedShare
    // One that did only part of its work in time would have taken so much more to do it all.
    taken += processorShare / Math.min(1, speed) - pictureShare
  }
  if (planned <= 0 || taken <= 0 || Math.abs(taken / planned - 1) <= loadTolerance) return null
  return taken / planned
}

/** Less than this of the processor is not worth a change. */
const minPictureShare = 0.05

/**
 * What decoding and scaling take of the processor, 1 = all of it, and up to which share of it, in
 * percent, a plan may go beside them: what is left of the usual one. null where that is not known, is
 * next to nothing, or is kept to already.
 */
export function plannedShareBeside(
  processes: readonly Pick<TakenShare, 'pictureShare'>[],
  { devices }: Computer,
): { pictureShare: number; percent: number } | null {
  let pictureShare = 0
  for (const { pictureShare: own } of processes) {
    if (own === null) return null
    pictureShare += own
  }
  const { min, default: usual } = plannedShareLimitsPercent
  const percent = Math.max(min, Math.round(usual - 100 * pictureShare))
  const isOver = devices.some(
    ({ kind, plannedSharePercent }) => kind === 'processor' && plannedSharePercent > percent,
  )
  return pictureShare >= minPictureShare && isOver ? { pictureShare, percent } : null
}

/** A computer of whose processor a plan may use so much. */
export const withPlannedShare = (computer: Computer, plannedSharePercent: number): Computer => ({
  ...computer,
  devices: computer.devices.map((device) =>
    device.kind === 'processor' ? { ...device, plannedSharePercent } : device,
  ),
})

/** A computer whose processor's encodes cost so many times what they did. */
export const withLoadCorrected = (computer: Computer, factor: number): Computer => ({
  ...computer,
  devices: computer.devices.map((device) =>
    device.kind !== 'processor'
      ? device
      : {
          ...device,
          throughputs: device.throughputs.map((each) => ({
            ...each,
            megapixelsPerSecond: Math.max(
              0.1,
              Number((each.megapixelsPerSecond / factor).toPrecision(3)),
            ),
            ...(each.millisecondsAFrame !== undefined && {
              millisecondsAFrame: Math.min(
                1000,
                Number((each.millisecondsAFrame * factor).toPrecision(3)),
              ),
            }),
          })),
        },
  ),
})
