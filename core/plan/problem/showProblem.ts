import { acceptedFrameRates, acceptsSize, bitrateStepKbps, takesSize } from '../../fit'
import { megapixelsPerSecond, recordingMegabytes } from '../../media'
import { usableUpload } from '../../network'
import { type Destination, lineOf, type Rendition } from '../../show'
import {
  acceptedRange,
  type BitrateRange,
  choiceOf,
  finenessTables,
  firstAtLeast,
  meanShapeTerm,
  wireTables,
} from './choices'
import type { Choice, Demand, DeviceLimit, Place, Problem, Relay, Shape } from './problem'
import { scoreUnitsPerPoint } from './problem'
import {
  type DemandSource,
  devicesFor,
  effortsOf,
  mended,
  picturesOf,
  type PlannedShow,
  routesOf,
  type Wish,
  wishesOf,
} from './wishes'

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

/** The place of a shape among all: first of its picture, then of the effort. */
type ShapeIndex = (picture: Omit<Shape, 'effort'>) => (effort: Shape['effort']) => number

/** Collects the shapes that a device can make, each once and with its places; without known devices every shape has one. */
function shapesWithPlaces({ computer: { devices } }: PlannedShow): {
  shapes: Shape[]
  places: Place[][]
  indexOf: ShapeIndex
} {
  const shapes: Shape[] = []
  const places: Place[][] = []
  const known = new Map<string, Map<string, number>>()
  const throughputs = devices.map(
    (device) =>
      new Map(
        device.throughputs.map((each) => [
          `${each.codec} ${each.effort}`,
          each.megapixelsPerSecond,
        ]),
      ),
  )
  const placesOf = (shape: Shape): Place[] => {
    const made = throughputs.flatMap((byEncoding, device): Place[] => {
      const throughput = byEncoding.get(`${shape.codec} ${shape.effort}`)
      return throughput !== undefined && takesSize(devices[device]!, shape)
        ? [{ device, load: megapixelsPerSecond(shape) / throughput }]
        : []
    })
    return [...made, { device: devices.length, load: 0 }]
  }
  return {
    shapes,
    places,
    indexOf(picture) {
      const { canvas, width, height, framesPerSecond, codec } = picture
      const key = `${canvas} ${width} ${height} ${framesPerSecond} ${codec}`
      const byEffort = known.get(key) ?? new Map<string, number>()
      known.set(key, byEffort)
      return (effort) => {
        const index = byEffort.get(effort)
        if (index !== undefined) return index
        const shape = { ...picture, effort }
        byEffort.set(effort, shapes.push(shape) - 1)
        places.push(placesOf(shape))
        return shapes.length - 1
      }
    },
  }
}

/** A show, with its line, rules, computer and pins, as a fitting problem. */
export function showProblem(show: PlannedShow): ShowProblem {
  const usableKbps = Math.floor(usableUpload(lineOf(show)).usableKbps)
  const diskGigabytes = show.computer.freeDiskGigabytes
  const wishes = wishesOf(show)
  const bitratesKbps = bitratesOf(wishes, usableKbps)
  const { shapes, places, indexOf } = shapesWithPlaces(show)
  const relays = show.destinations.filter(({ on, connection }) => on && connection === 'relay')
  const relayRenditions = relays.map((relay) =>
    mended(relay, relay.renditions[0] as Rendition, show),
  )
  const wireTable = wireTables(bitratesKbps)
  const context: ChoiceContext = {
    show,
    bitratesKbps,
    shapes,
    places,
    indexOf,
    fineness: finenessTables(shapes, show.pictureKind, bitratesKbps),
    wireTable,
    isStep: Uint8Array.from(bitratesKbps, (bitrate) => (bitrate % bitrateStepKbps === 0 ? 1 : 0)),
    listedTo: listedToFor(wishes, bitratesKbps),
  }
  const demands = wishes.map((wish): Demand => {
    const { rendition, destination, priority, steps } = wish
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
      choices: choicesOf(wish, context),
      devices: devicesFor(wish, show),
      shares: !wish.isHandOff,
      ...routesOf(wish, relays, relayRenditions, show),
    }
  })
  const { devices } = show.computer
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
      relays: relays.map((relay, at): Relay => {
        const rendition = relayRenditions[at] as Rendition
        return {
          id: relay.id,
          picture: pictureOf(relay.canvas, rendition),
          sound: soundOf(rendition),
          mostFed: relay.rules.mostFed,
          wires: relayWires(relay, rendition, context),
        }
      }),
    },
    sources: wishes.map(({ source }) => source),
    relays,
    relayRenditions,
    deviceIds: [...devices.map(({ id }) => id), null],
  }
}

/** What the choices of all demands are made from. */
interface ChoiceContext {
  show: PlannedShow
  bitratesKbps: readonly number[]
  shapes: readonly Shape[]
  places: readonly (readonly Place[])[]
  indexOf: ShapeIndex
  fineness: (shape: number) => Float64Array
  wireTable: ReturnType<typeof wireTables>
  /** Whether a bitrate is one of the steps, and not only somebody's pinned one. */
  isStep: Uint8Array
  listedTo: number
}

/** Up to where everybody lists bitrates, so that they can share with whoever has nothing lower. */
function listedToFor(wishes: readonly Wish[], bitratesKbps: readonly number[]): number {
  const leastKbps = wishes.map(({ rules, pins, rendition }) =>
    pins.has('video bitrate') ? rendition.videoBitrateKbps : (rules.leastVideoBitrateKbps ?? 0),
  )
  return firstAtLeast(bitratesKbps, Math.max(0, ...leastKbps)) + 1
}

function choicesOf(wish: Wish, context: ChoiceContext): Choice[] {
  const { show, bitratesKbps, shapes, places, indexOf, listedTo, fineness, wireTable } = context
  const { rules, rendition, pins, destination, priority, steps, viewers } = wish
  const isPinned = pins.has('video bitrate')
  const pinned = firstAtLeast(bitratesKbps, rendition.videoBitrateKbps)
  const within = (range: BitrateRange): BitrateRange | null => {
    if (!isPinned) return range
    return pinned >= range.first && pinned < range.end ? { first: pinned, end: pinned + 1 } : null
  }
  const isOffered = isPinned ? new Uint8Array(bitratesKbps.length).fill(1) : context.isStep
  const diskMegabytes = destination
    ? null
    : Int32Array.from(bitratesKbps, (videoBitrateKbps) =>
        Math.ceil(recordingMegabytes({ ...rendition, videoBitrateKbps }, show.durationMinutes)),
      )
  const notSent = new Int32Array(bitratesKbps.length)
  const devices = devicesFor(wish, show)
  const choices: Choice[] = []
  for (const picture of picturesOf(wish, show)) {
    const accepted = acceptedRange(rules, picture, bitratesKbps)
    const range = accepted && within(accepted)
    if (!range) continue
    const { framesPerSecond } = picture
    const wireKbps = destination
      ? wireTable(destination, { ...rendition, framesPerSecond })
      : notSent
    const wanted = {
      kind: show.pictureKind,
      shapeTerm: meanShapeTerm(picture, show.pictureKind, viewers),
      priority,
      steps,
    }
    const indexFor = indexOf(picture)
    for (const effort of effortsOf(wish, show)) {
      const index = indexFor(effort)
      if (!places[index]!.some(({ device }) => devices.includes(device))) continue
      const choice = choiceOf(index, shapes[index]!, range, wanted, {
        bitratesKbps,
        isOffered,
        listedTo,
        fineness,
        wireKbps,
        diskMegabytes,
      })
      if (choice) choices.push(choice)
    }
  }
  return choices
}

/** For each shape that a relay accepts what a send to it takes. */
function relayWires(
  relay: Destination,
  rendition: Rendition,
  { shapes, bitratesKbps, wireTable }: ChoiceContext,
): Relay['wires'] {
  const { canvas, rules } = relay
  const wires = new Map<number, BitrateRange & { wireKbps: Int32Array }>()
  const rates = acceptedFrameRates(rules)
  shapes.forEach((shape, index) => {
    const { framesPerSecond } = shape
    const isAccepted =
      shape.canvas === canvas &&
      acceptsSize(rules, shape) &&
      rules.codecs.includes(shape.codec) &&
      rates.includes(framesPerSecond)
    const range = isAccepted && acceptedRange(rules, shape, bitratesKbps)
    if (!range) return
    wires.set(index, { ...range, wireKbps: wireTable(relay, { ...rendition, framesPerSecond }) })
  })
  return wires
}
