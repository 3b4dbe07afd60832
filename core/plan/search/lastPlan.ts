import type { LastCells } from '../problem/preferences'
import type { Choice, Problem, Solution } from '../problem/problem'
import { excessOf, stateOf } from './moves'
import { type Encode, type EncodeUses, solutionOfEncodes } from './planState'

/**
 * The plan that a show holds already, where it still keeps all that has to hold. An owner of whom it does
 * not say everything is left out. null where it says nothing, or leaves out what must be kept.
 */
export function heldPlan(uses: EncodeUses): Solution | null {
  const { problem } = uses
  const { demands } = problem
  const encodes = lastEncodes(uses, demands.map(onlyWay(problem)))
  if (!encodes) return null
  const unknown = encodes.filter(({ shape }) => shape < 0).flatMap(({ serves }) => serves)
  const leftOut = new Set(unknown.map(({ demand }) => demands[demand]!.owner))
  if (unknown.some(({ demand }) => demands[demand]!.mustKeep)) return null
  const kept = encodes.flatMap((encode) => {
    const serves = encode.serves.filter(({ demand }) => !leftOut.has(demands[demand]!.owner))
    return serves.length > 0 ? [{ ...encode, serves }] : []
  })
  const state = stateOf(uses, kept)
  const limits = { minScoreUnits: 0, maxBelow: Infinity }
  return state && excessOf(uses, state, limits, null) === 0 ? solutionOfEncodes(uses, kept) : null
}

/** What of a hand-off no plan chooses; with a shape of -1 where there are several ways. */
const onlyWay =
  ({ places }: Problem) =>
  ({ choices, devices, direct, relays }: Problem['demands'][number], demand: number): Encode => {
    const [choice, ...others] = choices
    const serves = [{ demand, relay: null }]
    const able = places[choice?.shape ?? -1]?.filter(
      ({ device }) => devices?.includes(device) ?? true,
    )
    const isOneRoute = direct && relays.length === 0
    const isOneChoice = others.length === 0 && choice?.scores.length === 1
    return choice && isOneRoute && isOneChoice && able?.length === 1
      ? { serves, shape: choice.shape, device: able[0]!.device, bitrate: choice.first }
      : { serves, shape: -1, device: -1, bitrate: -1 }
  }

/** The shape that a demand was given; what devices make differently are several shapes. */
const shapeOf = (
  { shapes, places }: Problem,
  choices: readonly Choice[],
  cells: LastCells,
): number | undefined =>
  choices.find(({ shape: index }) => {
    const shape = shapes[index]!
    return (
      shape.width === cells.width &&
      shape.height === cells.height &&
      shape.framesPerSecond === cells.framesPerSecond &&
      shape.codec === cells.codec &&
      shape.effort === cells.effort &&
      places[index]!.some(({ device }) => device === cells.device)
    )
  })?.shape

/** The last plan's encodes, with what it did not know as in another plan; null where nothing was planned before. */
export function lastEncodes(
  { problem, preferences: { last } }: EncodeUses,
  other: readonly Encode[],
): Encode[] | null {
  const { demands, relays, bitratesKbps } = problem
  let isAnyKnown = false
  const encodes = new Map<string, Encode>()
  for (const encode of other)
    for (const served of encode.serves) {
      const { demand } = served
      const cells = last[demand]
      const { choices, direct, relays: able, shares, picture, sound } = demands[demand]!
      let own = { ...encode, relay: served.relay }
      if (cells) {
        const shape = shapeOf(problem, choices, cells)
        const bitrate = bitratesKbps.indexOf(cells.videoBitrateKbps)
        const isReachable = cells.relay === null ? direct : able.includes(cells.relay)
        if (shape !== undefined && bitrate >= 0 && cells.device >= 0 && isReachable) {
          own = { ...encode, shape, bitrate, device: cells.device, relay: cells.relay }
          isAnyKnown = true
        }
      }
      const via = own.relay === null ? { picture, sound } : relays[own.relay]!
      const key = shares
        ? JSON.stringify([via.picture, via.sound, own.shape, own.bitrate, own.device])
        : `own ${demand}`
      const joined = encodes.get(key)
      const serves = [...(joined?.serves ?? []), { demand, relay: own.relay }]
      encodes.set(key, { serves, shape: own.shape, device: own.device, bitrate: own.bitrate })
    }
  if (!isAnyKnown) return null
  return withRecordingsJoined(problem, [...encodes.values()])
}

/** A recording shares whatever encode has its picture, whatever its sound. */
function withRecordingsJoined({ demands, relays }: Problem, encodes: readonly Encode[]): Encode[] {
  // What is made for a relay has the picture of its rendition, whatever those it feeds would have had.
  const pictureOf = ({ serves: [first] }: Encode): string =>
    first!.relay === null ? demands[first!.demand]!.picture : relays[first!.relay]!.picture

  const areRecordings = ({ serves }: Encode): boolean =>
    serves.every(({ demand }) => demands[demand]!.sound === null)
  const joined = encodes.filter((encode) => !areRecordings(encode)).map((encode) => ({ ...encode }))
  const alone: Encode[] = []
  for (const encode of encodes.filter(areRecordings)) {
    const host = joined.find(
      (other) =>
        other.shape === encode.shape &&
        other.device === encode.device &&
        other.bitrate === encode.bitrate &&
        demands[other.serves[0]!.demand]!.shares &&
        pictureOf(other) === pictureOf(encode),
    )
    if (host) host.serves = [...host.serves, ...encode.serves]
    else alone.push(encode)
  }
  return [...joined, ...alone]
}
