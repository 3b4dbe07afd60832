import { type CanvasEncodes, canvasEncodesOf, plannedShareOf } from '../encoding'
import { deviceUses, type Encode, loadOn, namesServed } from '../fit'
import { encodedPictureOf, judgedOn, pictureScore, plannedEncoderShare } from '../media'
import {
  type Destination,
  type Device,
  type Effort,
  efforts,
  fedBy,
  type Recording,
  type Show,
} from '../show'
import type { TrialProcess } from './trial'

/** One encode with less effort. */
export interface LighterEncode {
  /** The destinations and recordings that it serves, each once. */
  names: string[]
  renditionIds: string[]
  from: Effort
  to: Effort
  /** Points of picture score that the one of them loses which loses most. */
  lostPoints: number
}

/**
 * How a computer that did not keep up would, or that less effort alone does not help. With what all that
 * is encoded, decoded and scaled would then take of the processor, 1 = all of it.
 */
export type KeepingUp =
  | { name: 'less effort'; lighter: LighterEncode[]; processorShare: number }
  | { name: 'too much'; processorShare: number }

interface LighterOption {
  effort: Effort
  /** Of the processor, as it was measured. */
  share: number
  lostPoints: number
  /** Priority × points, over all that the encode serves. */
  loss: number
}

/** Of two that lose the same, the one that changes less. */
const changeLoss = 1e-6
/** Shares are counted in thousandths, rounded up, so that what is found always fits. */
const grains = 1000

/**
 * The option of each class whose losses together are the fewest while their shares, in thousandths, stay
 * within the capacity: a multiple-choice knapsack by dynamic programming over it. null where not even the
 * smallest fit.
 */
export function fewestLosses(
  classes: readonly (readonly Pick<LighterOption, 'share' | 'loss'>[])[],
  capacity: number,
): number[] | null {
  const room = Math.floor(capacity * grains + 1e-9)
  if (room < 0) return null
  const width = room + 1
  let best = new Float64Array(width)
  const chosen = classes.map((options) => {
    const next = new Float64Array(width).fill(Infinity)
    const choice = new Int16Array(width).fill(-1)
    options.forEach(({ share, loss }, option) => {
      const taken = Math.ceil(share * grains - 1e-9)
      for (let used = taken; used < width; used += 1) {
        const sum = (best[used - taken] as number) + loss
        if (sum >= (next[used] as number)) continue
        next[used] = sum
        choice[used] = option
      }
    })
    best = next
    return { options, choice }
  })
  if (best[room] === Infinity) return null
  let used = room
  const found = chosen.reverse().map(({ options, choice }) => {
    const option = choice[used] as number
    used -= Math.ceil((options[option]?.share ?? 0) * grains - 1e-9)
    return option
  })
  return found.reverse()
}

/** Who sees what an encode makes, and what it is worth to them. */
interface Audience {
  priority: number
  score: (effort: Effort) => number
}

/** The audiences of an encode: a second ingest is for the same viewers, and a relay for those that it feeds. */
function audiencesOf(show: Show, { feeds, rendition }: Encode): Audience[] {
  const picture = encodedPictureOf(show)
  const { destinations, recordings } = show
  const audience = (
    { viewers, plan }: Pick<Destination, 'viewers' | 'plan'> | Recording,
    step: number,
  ): Audience => {
    const screens = judgedOn(viewers, step)
    return {
      priority: plan.priority,
      score: (effort) => pictureScore({ ...rendition, effort }, picture, screens),
    }
  }
  return feeds
    .filter(({ isBackup }) => !isBackup)
    .flatMap(({ ownerId, renditionId }) => {
      const recording = recordings.find(({ id }) => id === ownerId)
      if (recording) return [audience(recording, 0)]
      const destination = destinations.find(({ id }) => id === ownerId)
      if (!destination) return []
      if (destination.connection === 'relay')
        return fedBy(destinations, destination).map((fed) => audience(fed, 0))
      const step = destination.renditions.findIndex(({ id }) => id === renditionId)
      return [audience(destination, step)]
    })
}

const isPinned = (show: Show, renditionIds: readonly string[]): boolean =>
  [
    ...show.destinations.flatMap(({ renditions }) => renditions),
    ...show.recordings.map(({ rendition }) => rendition),
  ].some(({ id, pins }) => pins.includes('effort') && renditionIds.includes(id))

/** An encode at its own effort and at each that takes less; at its own alone where that is pinned. */
function optionsOf(
  show: Show,
  encode: Encode,
  { device, correction }: { device: Device; correction: number },
): LighterOption[] {
  const audiences = audiencesOf(show, encode)
  const { rendition } = encode
  const own = loadOn(device, rendition) ?? 0
  const mayChange = !isPinned(
    show,
    encode.feeds.map(({ renditionId }) => renditionId),
  )
  return efforts.flatMap((effort): LighterOption[] => {
    const load = loadOn(device, { ...rendition, effort })
    const isOwn = effort === rendition.effort
    if (load === null || (!isOwn && (!mayChange || load >= own))) return []
    const lost = audiences.map(({ priority, score }) => {
      const points = Math.max(0, score(rendition.effort) - score(effort))
      return { points, weighed: priority * points }
    })
    return [
      {
        effort,
        share: load * correction,
        lostPoints: Math.max(0, ...lost.map(({ points }) => points)),
        loss: lost.reduce((sum, { weighed }) => sum + weighed, isOwn ? 0 : changeLoss),
      },
    ]
  })
}

/** What one canvas takes, by what its process was measured to. */
function measuredOf(
  show: Show,
  canvas: CanvasEncodes,
  processes: readonly TrialProcess[],
): { pictureShare: number; correction: number } | null {
  const process = processes.find((each) => each.canvas === canvas.canvas)
  const plannedShare = plannedShareOf(show, canvas)
  if (!process || !plannedShare) return null
  const { processorShare, pictureShare, speed } = process
  if (processorShare === null || pictureShare === null || !speed) return null
  // What did part of its work in time would have taken so much more to do it all.
  const encoding = processorShare / Math.min(1, speed) - pictureShare
  return encoding > 0 ? { pictureShare, correction: encoding / plannedShare } : null
}

/**
 * With which efforts a computer would keep up with a plan that it was tried with: those that lose the
 * fewest points, by priority, among all that take at most what is usually planned of a processor,
 * decoding and scaling with them. Loads are the plan's, corrected by what was measured of each canvas.
 * null where what it took is not known, or where nothing has to change.
 */
export function effortsThatKeepUp(
  show: Show,
  processes: readonly TrialProcess[],
): KeepingUp | null {
  const devices = new Map(deviceUses(show).map(({ device }) => [device.id, device]))
  const classes: { encode: Encode; options: LighterOption[] }[] = []
  let pictures = 0
  for (const canvas of canvasEncodesOf(show)) {
    const measured = measuredOf(show, canvas, processes)
    if (!measured) return null
    pictures += measured.pictureShare
    for (const { encode } of canvas.encodes) {
      // That it is on a known processor is what the planned share says.
      const device = devices.get(encode.deviceId ?? '') as Device
      const { correction } = measured
      classes.push({ encode, options: optionsOf(show, encode, { device, correction }) })
    }
  }
  const found = fewestLosses(
    classes.map(({ options }) => options),
    plannedEncoderShare - pictures,
  )
  const shareOf = (options: readonly LighterOption[]): number =>
    options.reduce((sum, { share }) => sum + share, 0)
  if (!found) {
    const least = classes.map(({ options }) =>
      options.reduce((a, b) => (b.share < a.share ? b : a)),
    )
    return { name: 'too much', processorShare: pictures + shareOf(least) }
  }
  const taken = classes.map(({ encode, options }, index) => ({
    encode,
    option: options[found[index] as number] as LighterOption,
  }))
  const lighter = taken
    .filter(({ encode, option }) => option.effort !== encode.rendition.effort)
    .map(({ encode, option }) => ({
      names: namesServed(encode),
      renditionIds: [...new Set(encode.feeds.map(({ renditionId }) => renditionId))],
      from: encode.rendition.effort,
      to: option.effort,
      lostPoints: option.lostPoints,
    }))
  if (lighter.length === 0) return null
  const processorShare = pictures + shareOf(taken.map(({ option }) => option))
  return { name: 'less effort', lighter, processorShare }
}
