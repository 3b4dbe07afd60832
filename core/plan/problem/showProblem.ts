import {
  acceptedFrameRates,
  acceptsSize,
  bitrateStepKbps,
  takesSize,
  usableUploadOf,
  isCarried,
} from '../../fit'
import { encodedPictureOf, encoderLoad, judgedOn, recordingMegabytes } from '../../media'
import { type Destination, type Rendition, type Rules } from '../../show'
import {
  acceptedRange,
  type BitrateRange,
  choiceOf,
  firstAtLeast,
  meanShapeTerm,
  wireTables,
  type WorthTables,
  worthTables,
} from './choices'
import { withEarnings } from './earning'
import type { Choice, Demand, DeviceLimit, Place, Problem, Relay, Shape } from './problem'
import { lastCellsOf, type Preferences } from './preferences'
import { acceptedPictures } from './acceptedPictures'
import { scoreUnitsPerPoint } from './problem'
import {
  type DemandSource,
  devicesFor,
  effortsOf,
  withinRules,
  type PlannedShow,
  routesOf,
  type RenditionRequest,
  renditionRequestsOf,
  isFedAlone,
} from './renditionRequests'

/** A show as a fitting problem, with what leads back from its numbers to the show. */
export interface ShowProblem {
  problem: Problem
  sources: DemandSource[]
  relays: Destination[]
  /** What each relay is sent, but for what the plan chooses: within its own rules. */
  relayRenditions: Rendition[]
  /** The devices of the computer in the order of the problem; the last place there is for what runs on none that is known. */
  deviceIds: (string | null)[]
  preferences: Preferences
}

/** What of the picture a plan does not choose: only where it is the same can an encode be shared. */
function sharedPictureKey(canvas: string, rendition: Rendition): string {
  const { rateControl, profile, lookAheadFrames, downscaling } = rendition.encoder
  return JSON.stringify([
    canvas,
    rendition.keyframeIntervalSeconds,
    rendition.bFrames,
    rateControl,
    profile,
    lookAheadFrames,
    downscaling,
  ])
}

const soundOf = (rendition: Rendition): string =>
  JSON.stringify([
    rendition.audioCodec,
    rendition.audioBitrateKbps,
    rendition.audioChannels,
    rendition.audioSampleRateHz,
  ])

/** Every bitrate that may be chosen: the steps up to the highest that counts, and what is pinned. */
function bitratesOf(
  requests: readonly RenditionRequest[],
  relays: readonly Destination[],
  usableKbps: number,
): number[] {
  const highest = Math.max(
    bitrateStepKbps,
    ...requests.map(({ rules, destination }) =>
      destination ? Math.min(rules.mostVideoBitrateKbps, usableKbps) : rules.mostVideoBitrateKbps,
    ),
  )
  const bitrates = new Set(
    Array.from(
      { length: Math.floor(highest / bitrateStepKbps) },
      (_, index) => (index + 1) * bitrateStepKbps,
    ),
  )
  for (const { pins, rendition, rules } of requests) {
    if (pins.has('video bitrate')) bitrates.add(rendition.videoBitrateKbps)
    for (const own of ownSteps(rules)) bitrates.add(own)
  }
  for (const relay of relays) for (const own of relaySteps(relay)) bitrates.add(own)
  return [...bitrates].sort((a, b) => a - b)
}

/** The highest bitrate that rules accept, where they accept none of the steps. */
function ownSteps({ leastVideoBitrateKbps, mostVideoBitrateKbps }: Rules): number[] {
  const minStep = Math.ceil((leastVideoBitrateKbps ?? 0) / bitrateStepKbps) * bitrateStepKbps
  return Math.max(bitrateStepKbps, minStep) > mostVideoBitrateKbps ? [mostVideoBitrateKbps] : []
}

/** Bitrates beside the steps that what a relay is sent may have to have. */
function relaySteps({ rules, renditions: [main] }: Destination): number[] {
  const isPinned = main?.pins.includes('video bitrate')
  return isPinned && main ? [main.videoBitrateKbps] : ownSteps(rules)
}

/** The places among all shapes of those of a picture and effort: one for each way in which devices make it. */
type ShapeIndices = (picture: Omit<Shape, 'effort'>) => (effort: Shape['effort']) => number[]

/**
 * Collects the shapes that a device can make, each once and with its places; without known devices every
 * shape has one. What devices were measured to make better or worse is a shape for each.
 */
function shapesWithPlaces({ computer: { devices } }: PlannedShow): {
  shapes: Shape[]
  places: Place[][]
  indicesOf: ShapeIndices
} {
  const shapes: Shape[] = []
  const places: Place[][] = []
  const known = new Map<string, Map<string, number[]>>()
  const throughputs = devices.map(
    (device) => new Map(device.throughputs.map((each) => [`${each.codec} ${each.effort}`, each])),
  )
  const added = (shape: Shape): number[] => {
    // On no known device it is made as the tables say.
    const byEfficiency = new Map<number | undefined, Place[]>([[undefined, []]])
    throughputs.forEach((byEncoding, device) => {
      const throughput = byEncoding.get(`${shape.codec} ${shape.effort}`)
      if (throughput === undefined || !takesSize(devices[device]!, shape)) return
      const load = encoderLoad(shape, throughput, devices[device]!.togetherFactor)
      const alike = byEfficiency.get(throughput.efficiency) ?? []
      byEfficiency.set(throughput.efficiency, [...alike, { device, load }])
    })
    byEfficiency.get(undefined)!.push({ device: devices.length, load: 0 })
    return [...byEfficiency].map(([efficiency, own]) => {
      places.push(own)
      return shapes.push(efficiency === undefined ? shape : { ...shape, efficiency }) - 1
    })
  }
  return {
    shapes,
    places,
    indicesOf(picture) {
      const { canvas, width, height, framesPerSecond, codec } = picture
      const key = `${canvas} ${width} ${height} ${framesPerSecond} ${codec}`
      const byEffort = known.get(key) ?? new Map<string, number[]>()
      known.set(key, byEffort)
      return (effort) => {
        const indices =
          byEffort.get(effort) ?? added({ canvas, width, height, framesPerSecond, codec, effort })
        byEffort.set(effort, indices)
        return indices
      }
    },
  }
}

/** A show, with its line, rules, computer and pins, as a fitting problem. */
export function showProblem(show: PlannedShow): ShowProblem {
  const usableKbps = Math.floor(usableUploadOf(show).usableKbps)
  const diskGigabytes = show.computer.freeDiskGigabytes
  const requests = renditionRequestsOf(show)
  const { shapes, places, indicesOf } = shapesWithPlaces(show)
  const relays = show.destinations.filter(({ on, connection }) => on && connection === 'relay')
  const bitratesKbps = bitratesOf(requests, relays, usableKbps)
  const relayRenditions = relays.map((relay) =>
    withinRules(relay, relay.renditions[0] as Rendition, show),
  )
  const wireTable = wireTables(bitratesKbps)
  const context: ChoiceContext = {
    show,
    bitratesKbps,
    shapes,
    places,
    indicesOf,
    worths: worthTables(shapes, encodedPictureOf(show), bitratesKbps),
    wireTable,
    isStep: Uint8Array.from(bitratesKbps, (bitrate) => (bitrate % bitrateStepKbps === 0 ? 1 : 0)),
    listedTo: listedToFor(requests, relays, bitratesKbps),
  }
  // Those who ask for the same get the same list, by which they are known to be alike.
  const known = new Map<string, Choice[]>()
  const choicesFor = (request: RenditionRequest, feeding: readonly Destination[]): Choice[] => {
    const key = choiceKey(request, feeding)
    const choices = known.get(key) ?? choicesOf(request, feeding, context)
    known.set(key, choices)
    return choices
  }
  const demands = requests.map((request): Demand => {
    const { rendition, destination, priority } = request
    const routes = routesOf(request, relays, relayRenditions, show)
    const feeding = routes.relays.map((relay) => relays[relay] as Destination)
    return {
      id: `${request.owner} ${request.source.step}`,
      owner: request.owner,
      count: 1,
      priority,
      mustKeep: request.mustKeep,
      picture: sharedPictureKey(request.canvas, rendition),
      sound: destination ? soundOf(rendition) : null,
      floorUnits: floorUnitsOf(request, show),
      marginUnits: marginUnitsOf(request, show),
      choices: choicesFor(request, feeding),
      devices: devicesFor(request, show),
      shares: !request.isHandOff,
      direct: routes.direct,
      relays: routes.relays,
    }
  })
  const { devices } = show.computer
  const limits = devices.map(({ id, kind, plannedSharePercent, sessions }): DeviceLimit => ({
    id,
    isProcessor: kind === 'processor',
    maxLoad: plannedSharePercent / 100,
    sessions,
  }))
  const deviceIds = [...devices.map(({ id }) => id), null]
  const relayIds = relays.map(({ id }) => id)
  return {
    problem: {
      uploadKbps: usableKbps,
      diskMegabytes: diskGigabytes === null ? 1e9 : Math.floor(diskGigabytes * 1000),
      bitratesKbps,
      shapes,
      places,
      devices: [...limits, { id: '', isProcessor: false, maxLoad: 1e6, sessions: null }],
      demands,
      relays: relays.map((relay, at): Relay => {
        const rendition = relayRenditions[at] as Rendition
        return {
          id: relay.id,
          picture: sharedPictureKey(relay.canvas, rendition),
          sound: soundOf(rendition),
          mostFed: relay.rules.mostFed,
          devices: relayDevices(relay, rendition, show),
          wires: relayWires(relay, rendition, context),
        }
      }),
    },
    sources: requests.map(({ source }) => source),
    relays,
    relayRenditions,
    deviceIds,
    preferences: {
      marginUnits: Math.round(show.fit.marginPoints * scoreUnitsPerPoint),
      last: requests.map((request) => lastCellsOf(request, show, { deviceIds, relayIds })),
    },
  }
}

/** What the choices of all demands are made from. */
interface ChoiceContext {
  show: PlannedShow
  bitratesKbps: readonly number[]
  shapes: readonly Shape[]
  places: readonly (readonly Place[])[]
  indicesOf: ShapeIndices
  worths: WorthTables
  wireTable: ReturnType<typeof wireTables>
  /** Whether a bitrate is one of the steps, and not only somebody's pinned one. */
  isStep: Uint8Array
  listedTo: number
}

/** Up to where everybody lists bitrates, so that they can share with whoever has nothing lower. */
function listedToFor(
  requests: readonly RenditionRequest[],
  relays: readonly Destination[],
  bitratesKbps: readonly number[],
): number {
  const minKbps = requests.map(({ rules, pins, rendition }) =>
    pins.has('video bitrate') ? rendition.videoBitrateKbps : (rules.leastVideoBitrateKbps ?? 0),
  )
  const ofRelays = relays.flatMap((relay) => [
    relay.rules.leastVideoBitrateKbps ?? 0,
    ...relaySteps(relay),
  ])
  return firstAtLeast(bitratesKbps, Math.max(0, ...minKbps, ...ofRelays)) + 1
}

/** All that the choices of a request depend on, within one show. */
function choiceKey(request: RenditionRequest, feeding: readonly Destination[]): string {
  const { rules, rendition, pins, destination, largerThan } = request
  const { id: _id, pins: _pins, ...settings } = rendition
  return JSON.stringify([
    [request.canvas, request.priority, request.steps, request.isHandOff, request.source.kind],
    request.mustKeep,
    judgedOn(request.viewers, request.source.step),
    [rules.codecs, rules.sizes, rules.framesPerSecond, rules.highestLevel],
    [rules.leastVideoBitrateKbps, rules.mostVideoBitrateKbps],
    [settings, [...pins].sort()],
    largerThan && [largerThan.width, largerThan.height],
    destination && [
      ...[destination.protocol, destination.path, destination.backupAddress !== null],
      ...[destination.plan.newerCodecs, isFedAlone(destination)],
    ],
    feeding.map(({ id }) => id),
  ])
}

/** What a demand gets out of every shape that it accepts; `feeding` are the relays it may be reached through. */
function choicesOf(
  request: RenditionRequest,
  feeding: readonly Destination[],
  context: ChoiceContext,
): Choice[] {
  const { show, bitratesKbps, shapes, places, indicesOf, listedTo, worths, wireTable } = context
  const { rules, rendition, pins, destination, priority, steps, viewers } = request
  const { audioBitrateKbps } = rendition
  const isOffered = pins.has('video bitrate')
    ? new Uint8Array(bitratesKbps.length).fill(1)
    : withSteps(context, [...ownSteps(rules), ...feeding.flatMap(relaySteps)])
  const diskMegabytes = destination
    ? null
    : Int32Array.from(bitratesKbps, (videoBitrateKbps) =>
        Math.ceil(recordingMegabytes({ videoBitrateKbps, audioBitrateKbps }, show.durationMinutes)),
      )
  const notSent = new Int32Array(bitratesKbps.length)
  const devices = devicesFor(request, show)
  const picture = encodedPictureOf(show)
  const screens = judgedOn(viewers, request.source.step)
  const choices: Choice[] = []
  for (const { picture: wantedPicture, ...range } of acceptedPictures(
    request,
    show,
    bitratesKbps,
  )) {
    const { framesPerSecond } = wantedPicture
    const wireKbps = destination
      ? wireTable(destination, { ...rendition, framesPerSecond })
      : notSent
    const wanted = {
      shapeTerm: meanShapeTerm(wantedPicture, picture, screens),
      lookAheadFrames: rendition.encoder.lookAheadFrames,
      priority,
      steps,
    }
    const worthOf = worths(wanted)
    const indicesFor = indicesOf(wantedPicture)
    for (const effort of effortsOf(request, show))
      for (const index of indicesFor(effort)) {
        if (!places[index]!.some(({ device }) => devices.includes(device))) continue
        const choice = choiceOf(index, range, wanted, {
          isOffered,
          listedTo,
          worthOf,
          wireKbps,
          diskMegabytes,
          mayBeFed: feeding.length > 0,
        })
        if (choice) choices.push(choice)
      }
  }
  return withEarnings(choices, shapes, {
    marginUnits: marginUnitsOf(request, show),
    floorUnits: floorUnitsOf(request, show),
  })
}

/** So many score units a larger size or higher frame rate has to be worth above a smaller one. */
const marginUnitsOf = ({ steps, priority }: RenditionRequest, { fit }: PlannedShow): number =>
  Math.round((fit.shapeMarginPoints * scoreUnitsPerPoint) / steps) * priority

/** Below this many score units a request counts as below the floor: no recording ever does, nor a lower step of a ladder. */
const floorUnitsOf = (
  { destination, source, steps, priority }: RenditionRequest,
  { fit }: PlannedShow,
) =>
  destination && source.step === 0
    ? Math.round((fit.floorScore * scoreUnitsPerPoint) / steps) * priority
    : 0

/** The steps, and some bitrates besides. */
function withSteps(
  { isStep, bitratesKbps }: ChoiceContext,
  besides: readonly number[],
): Uint8Array {
  if (besides.length === 0) return isStep
  const offered = isStep.slice()
  for (const kbps of besides) offered[firstAtLeast(bitratesKbps, kbps)] = 1
  return offered
}

/** The device that a relay's own rendition is pinned to; null where it is not. */
function relayDevices(
  relay: Destination,
  { encoder }: Rendition,
  { computer }: PlannedShow,
): readonly number[] | null {
  const own = computer.devices.findIndex(({ id }) => id === encoder.deviceId)
  return relay.renditions[0]?.pins.includes('device') && own >= 0 ? [own] : null
}

/** For each shape that a relay accepts, and its pins, what a send to it takes. */
function relayWires(
  relay: Destination,
  rendition: Rendition,
  { show, shapes, bitratesKbps, wireTable }: ChoiceContext,
): Relay['wires'] {
  const { canvas, rules } = relay
  const wires = new Map<number, BitrateRange & { wireKbps: Int32Array }>()
  const rates = acceptedFrameRates(rules)
  const pins = new Set(relay.renditions[0]?.pins)
  const isAsPinned = (shape: Shape): boolean =>
    (!pins.has('size') || (shape.width === rendition.width && shape.height === rendition.height)) &&
    (!pins.has('frame rate') || shape.framesPerSecond === rendition.framesPerSecond) &&
    (!pins.has('codec') || shape.codec === rendition.codec) &&
    (!pins.has('effort') || shape.effort === rendition.effort)
  const pinned = firstAtLeast(bitratesKbps, rendition.videoBitrateKbps)
  const within = (range: BitrateRange): BitrateRange | null => {
    if (!pins.has('video bitrate')) return range
    return pinned >= range.first && pinned < range.end ? { first: pinned, end: pinned + 1 } : null
  }
  shapes.forEach((shape, index) => {
    const { framesPerSecond } = shape
    const isAccepted =
      isAsPinned(shape) &&
      shape.canvas === canvas &&
      acceptsSize(rules, shape) &&
      rules.codecs.includes(shape.codec) &&
      isCarried(show.computer, relay, shape.codec) &&
      rates.includes(framesPerSecond)
    const accepted = isAccepted && acceptedRange(rules, shape, bitratesKbps)
    const range = accepted && within(accepted)
    if (!range) return
    const wireKbps = wireTable(relay, { ...rendition, framesPerSecond })
    wires.set(index, { first: range.first, end: range.end, wireKbps })
  })
  return wires
}
