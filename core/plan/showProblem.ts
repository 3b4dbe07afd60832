import {
  acceptedFrameRates,
  acceptsSize,
  bitrateStepKbps,
  breachesOf,
  sameShape,
  sizesToOffer,
  takesSize,
} from '../fit'
import { megapixelsPerSecond, recordingMegabytes } from '../media'
import { usableUpload } from '../network'
import {
  type Destination,
  efforts,
  lineOf,
  newRules,
  type Pin,
  type Recording,
  type Rendition,
  type Rules,
  type Show,
  type Size,
} from '../show'
import { acceptedRange, choiceOf, finenessTables, wireTable } from './choices'
import type { Choice, Demand, DeviceLimit, Place, Problem, Relay, Shape } from './problem'
import { scoreUnitsPerPoint } from './problem'

export type PlannedShow = Pick<
  Show,
  | 'destinations'
  | 'recordings'
  | 'computer'
  | 'fit'
  | 'lines'
  | 'lineId'
  | 'pictureKind'
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

/** A show as a fitting problem, with what leads back from its numbers to the show. */
export interface ShowProblem {
  problem: Problem
  sources: DemandSource[]
  relays: Destination[]
  /** What each relay is sent, but for what the plan chooses: within its own rules. */
  relayRenditions: Rendition[]
  /** The devices of the computer in the order of the problem; the last place there is for what runs on none that is known. */
  deviceIds: (string | null)[]
}

const audioAndTiming = new Set([
  'keyframe interval',
  'B-frames',
  'audio codec',
  'audio bitrate',
  'audio channels',
  'audio sample rate',
])

/** A rendition with what a plan does not choose brought within the rules. */
export function mended(
  destination: Destination,
  rendition: Rendition,
  show: PlannedShow,
): Rendition {
  return breachesOf({ ...destination, renditions: [rendition] }, show.canvasPair)
    .filter(({ rule }) => audioAndTiming.has(rule))
    .reduce((next, { remedy }) => ({ ...next, ...remedy?.changes }), rendition)
}

/** Frame rates that come out of the canvases' by leaving out frames evenly; failing that every accepted one that is reached. */
export function plannedFrameRates(
  rules: Rules,
  canvasFramesPerSecond: number,
): Shape['framesPerSecond'][] {
  const reached = acceptedFrameRates(rules).filter((rate) => rate <= canvasFramesPerSecond)
  const even = reached.filter((rate) => canvasFramesPerSecond % rate === 0)
  return even.length > 0 ? even : reached
}

/** What of the picture a plan does not choose: only where it is the same can an encode be shared. */
function pictureOf(canvas: string, rendition: Rendition): string {
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

/** What a recording accepts, put as the rules of a destination. */
export const recordingRules = (recording: Recording, show: Pick<Show, 'canvasPair'>): Rules => ({
  ...newRules(recording.canvas),
  codecs: recording.codecs,
  sizes: { type: 'up to', ...show.canvasPair[recording.canvas] },
  mostVideoBitrateKbps: recording.mostVideoBitrateKbps,
})

interface Wish {
  source: DemandSource
  owner: string
  canvas: Recording['canvas']
  rules: Rules
  rendition: Rendition
  pins: ReadonlySet<Pin>
  priority: number
  mustKeep: boolean
  viewers: Recording['viewers']
  steps: number
  /** The next smaller step of its ladder, which it has to exceed. */
  largerThan: Rendition | null
  destination: Destination | null
  isHandOff: boolean
}

const everyPin: readonly Pin[] = [
  'size',
  'frame rate',
  'codec',
  'video bitrate',
  'device',
  'effort',
]

function wishesOf(show: PlannedShow): Wish[] {
  const sends = show.destinations
    .filter(({ on, connection }) => on && connection !== 'relay')
    .flatMap((destination) =>
      destination.renditions.slice(0, destination.rules.mostRenditions).map((given, step): Wish => {
        const rendition = mended(destination, given, show)
        const isHandOff = destination.connection === 'hand-off'
        const { priority, mustKeep } = destination.plan
        const lowerSteps: readonly Pin[] = step > 0 ? ['size', 'frame rate', 'codec'] : []
        return {
          source: { kind: 'destination', id: destination.id, step, rendition },
          owner: destination.id,
          canvas: destination.canvas,
          rules: destination.rules,
          rendition,
          pins: new Set(isHandOff ? everyPin : [...given.pins, ...lowerSteps]),
          priority,
          mustKeep,
          viewers: destination.viewers,
          steps: Math.min(destination.renditions.length, destination.rules.mostRenditions),
          largerThan: destination.renditions[step + 1] ?? null,
          destination,
          isHandOff,
        }
      }),
    )
  const recordings = show.recordings
    .filter(({ on }) => on)
    .map((recording): Wish => ({
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

/** The shapes that a wish could take, by its rules and pins; effort and codec stay where no device is known. */
function shapesOf(wish: Wish, show: PlannedShow): Shape[] {
  const { rules, rendition, pins, canvas } = wish
  const knowsDevices = show.computer.devices.length > 0
  const canvasSize = show.canvasPair[canvas]
  const isAsked = (size: Size): boolean =>
    sameShape(size, canvasSize) &&
    (!wish.largerThan || size.width * size.height > wish.largerThan.width * wish.largerThan.height)
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
  const codecs =
    pins.has('codec') || !knowsDevices
      ? rules.codecs.filter((codec) => codec === rendition.codec)
      : rules.codecs
  const chosenEfforts = pins.has('effort') || !knowsDevices ? [rendition.effort] : efforts
  return sizes.flatMap(({ width, height }) =>
    rates.flatMap((framesPerSecond) =>
      codecs.flatMap((codec) =>
        chosenEfforts.map((effort) => ({ canvas, width, height, framesPerSecond, codec, effort })),
      ),
    ),
  )
}

/** Every bitrate that may be chosen: the steps up to the highest that counts, and what is pinned. */
function bitratesOf(wishes: readonly Wish[], usableKbps: number): number[] {
  const highest = Math.max(
    bitrateStepKbps,
    ...wishes.map(({ rules, destination }) =>
      destination ? Math.min(rules.mostVideoBitrateKbps, usableKbps) : rules.mostVideoBitrateKbps,
    ),
  )
  const bitrates = new Set(
    Array.from(
      { length: Math.floor(highest / bitrateStepKbps) },
      (_, index) => (index + 1) * bitrateStepKbps,
    ),
  )
  for (const { pins, rendition } of wishes)
    if (pins.has('video bitrate')) bitrates.add(rendition.videoBitrateKbps)
  return [...bitrates].sort((a, b) => a - b)
}

/** Collects shapes, each once. */
function shapeList(): { shapes: Shape[]; indexOf: (shape: Shape) => number } {
  const shapes: Shape[] = []
  const known = new Map<string, number>()
  return {
    shapes,
    indexOf(shape) {
      const key = `${shape.canvas} ${shape.width} ${shape.height} ${shape.framesPerSecond} ${shape.codec} ${shape.effort}`
      const index = known.get(key)
      if (index !== undefined) return index
      known.set(key, shapes.push(shape) - 1)
      return shapes.length - 1
    },
  }
}

/** A show, with its line, rules, computer and pins, as a fitting problem. */
export function showProblem(show: PlannedShow): ShowProblem {
  const usableKbps = Math.floor(usableUpload(lineOf(show)).usableKbps)
  const diskGigabytes = show.computer.freeDiskGigabytes
  const wishes = wishesOf(show)
  const bitratesKbps = bitratesOf(wishes, usableKbps)
  const { shapes, indexOf } = shapeList()
  const fineness = finenessTables(shapes, show.pictureKind, bitratesKbps)
  const { devices } = show.computer
  const unknownDevice = devices.length
  const relays = show.destinations.filter(({ on, connection }) => on && connection === 'relay')

  const demands = wishes.map((wish): Demand => {
    const { rendition, pins, destination, rules, priority, steps } = wish
    const wires = new Map<number, Int32Array>()
    const wireFor = (framesPerSecond: Shape['framesPerSecond']): Int32Array | null => {
      if (!destination) return null
      const known = wires.get(framesPerSecond)
      if (known) return known
      const table = wireTable(destination, { ...rendition, framesPerSecond }, bitratesKbps)
      wires.set(framesPerSecond, table)
      return table
    }
    const diskMegabytes = destination
      ? null
      : Int32Array.from(bitratesKbps, (videoBitrateKbps) =>
          Math.ceil(recordingMegabytes({ ...rendition, videoBitrateKbps }, show.durationMinutes)),
        )
    const isOffered = (bitrateKbps: number): boolean =>
      pins.has('video bitrate')
        ? bitrateKbps === rendition.videoBitrateKbps
        : bitrateKbps % bitrateStepKbps === 0
    const offered = wish.isHandOff ? [handOffShape(wish)] : shapesOf(wish, show)
    const choices = offered.flatMap((shape): Choice[] => {
      const range = acceptedRange(rules, shape, bitratesKbps)
      if (!range) return []
      return [
        choiceOf(
          indexOf(shape),
          shape,
          range,
          { kind: show.pictureKind, viewers: wish.viewers, priority, steps },
          {
            bitratesKbps,
            fineness,
            wireKbps: wireFor(shape.framesPerSecond),
            diskMegabytes,
            isOffered,
          },
        ),
      ]
    })
    return {
      id: `${wish.owner} ${wish.source.step}`,
      owner: wish.owner,
      priority,
      mustKeep: wish.mustKeep,
      picture: pictureOf(wish.canvas, rendition),
      sound: destination ? soundOf(rendition) : null,
      floorUnits:
        wish.source.step === 0
          ? Math.round((show.fit.floorScore * scoreUnitsPerPoint) / steps) * priority
          : 0,
      choices,
      devices: devicesFor(wish, show),
      shares: !wish.isHandOff,
      ...routesOf(wish, relays, show),
    }
  })

  const relayRenditions = relays.map((relay) =>
    mended(relay, relay.renditions[0] as Rendition, show),
  )
  const problemRelays = relays.map((relay, at): Relay => {
    const rendition = relayRenditions[at] as Rendition
    const wires = new Map<number, { first: number; wireKbps: Int32Array }>()
    const tables = new Map<number, Int32Array>()
    shapes.forEach((shape, index) => {
      if (shape.canvas !== relay.canvas || !accepts(relay.rules, shape)) return
      const range = acceptedRange(relay.rules, shape, bitratesKbps)
      if (!range) return
      const known = tables.get(shape.framesPerSecond)
      const table =
        known ??
        wireTable(relay, { ...rendition, framesPerSecond: shape.framesPerSecond }, bitratesKbps)
      tables.set(shape.framesPerSecond, table)
      wires.set(index, { first: range[0], wireKbps: table.subarray(range[0], range[1] + 1) })
    })
    return {
      id: relay.id,
      picture: pictureOf(relay.canvas, rendition),
      sound: soundOf(rendition),
      mostFed: relay.rules.mostFed,
      wires,
    }
  })

  const places = shapes.map((shape): Place[] => {
    const known = devices.flatMap((device, index): Place[] => {
      const throughput = device.throughputs.find(
        ({ codec, effort }) => codec === shape.codec && effort === shape.effort,
      )
      if (!throughput || !takesSize(device, shape)) return []
      const load = megapixelsPerSecond(shape) / throughput.megapixelsPerSecond
      return [{ device: index, load }]
    })
    return [...known, { device: unknownDevice, load: 0 }]
  })
  const limits = devices.map(({ id, plannedSharePercent, sessions }): DeviceLimit => ({
    id,
    mostLoad: plannedSharePercent / 100,
    sessions,
  }))
  return {
    problem: {
      uploadKbps: usableKbps,
      diskMegabytes: diskGigabytes === null ? 1e9 : Math.floor(diskGigabytes * 1000),
      bitratesKbps,
      shapes,
      places,
      devices: [...limits, { id: '', mostLoad: 1e6, sessions: null }],
      demands,
      relays: problemRelays,
    },
    sources: wishes.map(({ source }) => source),
    relays,
    relayRenditions,
    deviceIds: [...devices.map(({ id }) => id), null],
  }
}

const handOffShape = ({ rendition, canvas }: Wish): Shape => {
  const { width, height, framesPerSecond, codec, effort } = rendition
  return { canvas, width, height, framesPerSecond, codec, effort }
}

const accepts = (rules: Rules, shape: Shape): boolean =>
  acceptsSize(rules, shape) &&
  rules.codecs.includes(shape.codec) &&
  acceptedFrameRates(rules).some((rate) => rate === shape.framesPerSecond)

/** Where a wish may be encoded: on what is pinned, on any device of the computer, or on none that is known. */
function devicesFor(wish: Wish, { computer }: PlannedShow): number[] | null {
  const unknownDevice = computer.devices.length
  const own = computer.devices.findIndex(({ id }) => id === wish.rendition.encoder.deviceId)
  if (wish.isHandOff) return [own < 0 ? unknownDevice : own]
  if (wish.pins.has('device') && own >= 0) return [own]
  return unknownDevice === 0 ? [0] : computer.devices.map((_, index) => index)
}

/** How a wish may reach its destination: as pinned, else directly or through any relay that can pass it on. */
function routesOf(
  { destination, steps }: Wish,
  relays: readonly Destination[],
  show: PlannedShow,
): Pick<Demand, 'direct' | 'relays'> {
  if (!destination) return { direct: true, relays: [] }
  const canFeed = (relay: Destination): boolean =>
    steps === 1 &&
    relay.canvas === destination.canvas &&
    (destination.connection === 'address and key' || destination.connection === 'linked account') &&
    acceptsSound(destination, relay, show)
  const able = relays.flatMap((relay, index) => (canFeed(relay) ? [index] : []))
  if (!destination.plan.routePinned) return { direct: true, relays: able }
  if (destination.relayId === null) return { direct: true, relays: [] }
  return {
    direct: false,
    relays: able.filter((index) => relays[index]?.id === destination.relayId),
  }
}

/** Whether a destination takes the sound, keyframes and B-frames that a relay is sent. */
function acceptsSound(destination: Destination, relay: Destination, show: PlannedShow): boolean {
  const rendition = mended(relay, relay.renditions[0] as Rendition, show)
  return breachesOf(
    { ...destination, protocol: relay.protocol, renditions: [rendition] },
    show.canvasPair,
  ).every(({ rule }) => !audioAndTiming.has(rule))
}
