import {
  acceptedFrameRates,
  acceptsSize,
  isCarried,
  sameShape,
  sizesToOffer,
  timingAndSoundBreaches,
} from '../../fit'
import {
  type CanvasName,
  type Codec,
  codecs,
  type Destination,
  efforts,
  newRules,
  type Pin,
  pinnable,
  type Recording,
  type Rendition,
  type Rules,
  type Show,
  type Size,
} from '../../show'
import type { Demand, Shape } from './problem'

export type PlannedShow = Pick<
  Show,
  | 'destinations'
  | 'recordings'
  | 'computer'
  | 'fit'
  | 'lines'
  | 'lineId'
  | 'pictureKind'
  | 'ownPicture'
  | 'canvasPair'
  | 'durationMinutes'
>

/** Which part of the show a demand of the problem stands for. */
export interface DemandSource {
  kind: 'destination' | 'recording'
  id: string
  /** The step of the ladder, 0 for the main rendition. */
  step: number
  rendition: Rendition
}

/** One rendition that is wanted, with what limits it. */
export interface RenditionRequest {
  source: DemandSource
  owner: string
  canvas: CanvasName
  rules: Rules
  rendition: Rendition
  pins: ReadonlySet<Pin>
  priority: number
  mustKeep: boolean
  viewers: Recording['viewers']
  steps: number
  /** The next smaller step of its ladder, which it has to exceed. */
  largerThan: Rendition | null
  /** null for a recording. */
  destination: Destination | null
  isHandOff: boolean
}

/** A rendition with what a plan does not choose brought within the rules. */
export function withinRules(
  destination: Destination,
  rendition: Rendition,
  show: PlannedShow,
): Rendition {
  return timingAndSoundBreaches(
    { ...destination, renditions: [rendition] },
    show.canvasPair,
  ).reduce((next, { remedy }) => ({ ...next, ...remedy?.changes }), rendition)
}

/** Frame rates that come out of the canvases' by leaving out frames evenly; failing that every accepted one that is reached. */
function plannedFrameRates(
  rules: Rules,
  canvasFramesPerSecond: number,
): Shape['framesPerSecond'][] {
  const reached = acceptedFrameRates(rules).filter((rate) => rate <= canvasFramesPerSecond)
  const even = reached.filter((rate) => canvasFramesPerSecond % rate === 0)
  return even.length > 0 ? even : reached
}

/** What a recording accepts, put as the rules of a destination. */
export const recordingRules = (recording: Recording, show: Pick<Show, 'canvasPair'>): Rules => ({
  ...newRules(recording.canvas),
  codecs: recording.codecs,
  sizes: { type: 'up to', ...show.canvasPair[recording.canvas] },
  mostVideoBitrateKbps: recording.mostVideoBitrateKbps,
})

/** Everything that a show wants encoded: what is sent, each step of a ladder by itself, and what is recorded. */
export function renditionRequestsOf(show: PlannedShow): RenditionRequest[] {
  const sends = show.destinations
    .filter(({ on, connection }) => on && connection !== 'relay')
    .flatMap((destination) => {
      const ladder = destination.renditions.slice(0, destination.rules.mostRenditions)
      return ladder.map((given, step): RenditionRequest => {
        const rendition = withinRules(destination, given, show)
        const isHandOff = destination.connection === 'hand-off'
        const { priority, mustKeep } = destination.plan
        const lowerSteps: readonly Pin[] = step > 0 ? ['size', 'frame rate', 'codec'] : []
        return {
          source: { kind: 'destination', id: destination.id, step, rendition },
          owner: destination.id,
          canvas: destination.canvas,
          rules: destination.rules,
          rendition,
          pins: new Set(isHandOff ? pinnable : [...given.pins, ...lowerSteps]),
          priority,
          mustKeep,
          viewers: destination.viewers,
          steps: Math.min(destination.renditions.length, destination.rules.mostRenditions),
          // A step that is not sent is nothing to be larger than.
          largerThan: ladder[step + 1] ?? null,
          destination,
          isHandOff,
        }
      })
    })
  const recordings = show.recordings
    .filter(({ on }) => on)
    .map((recording): RenditionRequest => ({
      source: { kind: 'recording', id: recording.id, step: 0, rendition: recording.rendition },
      owner: `recording ${recording.id}`,
      canvas: recording.canvas,
      rules: recordingRules(recording, show),
      rendition: recording.rendition,
      pins: new Set(recording.rendition.pins),
      priority: recording.plan.priority,
      mustKeep: recording.plan.mustKeep,
      viewers: recording.viewers,
      steps: 1,
      largerThan: null,
      destination: null,
      isHandOff: false,
    }))
  return [...sends, ...recordings]
}

/** The pictures that a request could take, by its rules and pins; a hand-off's program makes what it makes. */
export function picturesOf(request: RenditionRequest, show: PlannedShow): Omit<Shape, 'effort'>[] {
  const { rules, rendition, pins, canvas } = request
  if (request.isHandOff) {
    const { width, height, framesPerSecond, codec } = rendition
    const isAccepted =
      acceptsSize(rules, rendition) &&
      acceptedFrameRates(rules).includes(framesPerSecond) &&
      framesPerSecond <= show.canvasPair.framesPerSecond &&
      rules.codecs.includes(codec)
    return isAccepted ? [{ canvas, width, height, framesPerSecond, codec }] : []
  }
  const canvasSize = show.canvasPair[canvas]
  const isAsked = (size: Size): boolean =>
    sameShape(size, canvasSize) &&
    (!request.largerThan ||
      size.width * size.height > request.largerThan.width * request.largerThan.height)
  const sizes = (
    pins.has('size')
      ? [rendition].filter((size) => acceptsSize(rules, size))
      : sizesToOffer(rules, canvasSize)
  ).filter(isAsked)
  const rates = pins.has('frame rate')
    ? acceptedFrameRates(rules).filter(
        (rate) => rate === rendition.framesPerSecond && rate <= show.canvasPair.framesPerSecond,
      )
    : plannedFrameRates(rules, show.canvasPair.framesPerSecond)
  const codecs = codecsOf(request, show)
  return sizes.flatMap(({ width, height }) =>
    rates.flatMap((framesPerSecond) =>
      codecs.map((codec) => ({ canvas, width, height, framesPerSecond, codec })),
    ),
  )
}

/** Where nothing is known of the computer: an effort that most of them keep up with (common practice, no published source). */
const effortForAny: Shape['effort'] = 'balanced'

/** The efforts that a request could take; where no device is known one for all. */
export const effortsOf = (
  { pins, rendition, isHandOff }: RenditionRequest,
  { computer }: PlannedShow,
): readonly Shape['effort'][] => {
  if (isHandOff || pins.has('effort')) return [rendition.effort]
  return computer.devices.length === 0 ? [effortForAny] : efforts
}

/** Whether a destination gets what it gets from a relay alone: nothing is sent to it from here. */
export const isFedAlone = ({ plan, relayId }: Destination): boolean =>
  plan.routePinned && relayId !== null

/**
 * The codecs that a request could take: H.264, which everything can show, where it is accepted and some
 * device makes it and the encoder program can send it there; the newer ones too where they are trusted; where no device is known the first of
 * those alone.
 */
function codecsOf(
  { pins, rendition, rules, destination }: RenditionRequest,
  { fit, computer }: Pick<PlannedShow, 'fit' | 'computer'>,
): readonly Codec[] {
  const { devices } = computer
  const isSendable = (codec: Codec): boolean =>
    !destination || isFedAlone(destination) || isCarried(computer, destination, codec)
  if (pins.has('codec'))
    return rules.codecs.filter((codec) => codec === rendition.codec && isSendable(codec))
  const isMade = (codec: Codec): boolean =>
    devices.length === 0 ||
    devices.some(({ throughputs }) => throughputs.some((each) => each.codec === codec))
  const accepted = codecs.filter(
    (codec) => rules.codecs.includes(codec) && isMade(codec) && isSendable(codec),
  )
  // What a recording may be in is chosen for it alone, so that all of it is trusted.
  const areNewerTrusted = destination ? (destination.plan.newerCodecs ?? fit.newerCodecs) : true
  return areNewerTrusted && devices.length > 0 ? accepted : accepted.slice(0, 1)
}

/**
 * Where a request may be encoded: on what is pinned, on any device of the computer, or on none that is
 * known, which stands behind the known ones.
 */
export function devicesFor(request: RenditionRequest, { computer }: PlannedShow): number[] {
  const unknownDevice = computer.devices.length
  const own = computer.devices.findIndex(({ id }) => id === request.rendition.encoder.deviceId)
  if (request.isHandOff) return [own < 0 ? unknownDevice : own]
  if (request.pins.has('device') && own >= 0) return [own]
  return unknownDevice === 0 ? [0] : computer.devices.map((_, index) => index)
}

/**
 * How a request may reach its destination: as pinned, else directly or through any relay that can pass
 * it on. `sent` is what each of the relays is sent, but for what the plan chooses.
 */
export function routesOf(
  { destination, rendition, steps }: RenditionRequest,
  relays: readonly Destination[],
  sent: readonly Rendition[],
  show: PlannedShow,
): Pick<Demand, 'direct' | 'relays'> {
  if (!destination) return { direct: true, relays: [] }
  const canFeed = (relay: Destination, index: number): boolean =>
    steps === 1 &&
    relay.canvas === destination.canvas &&
    (destination.connection === 'address and key' || destination.connection === 'linked account') &&
    timingAndSoundBreaches(
      { ...destination, protocol: relay.protocol, renditions: sent.slice(index, index + 1) },
      show.canvasPair,
    ).length === 0
  const able = relays.flatMap((relay, index) => (canFeed(relay, index) ? [index] : []))
  // What is left of its breaches cannot be withinRules, such as a protocol that carries none of its sounds.
  const direct =
    timingAndSoundBreaches({ ...destination, renditions: [rendition] }, show.canvasPair).length ===
    0
  if (!destination.plan.routePinned) return { direct, relays: able }
  if (destination.relayId === null) return { direct, relays: [] }
  return {
    direct: false,
    relays: able.filter((index) => relays[index]?.id === destination.relayId),
  }
}
