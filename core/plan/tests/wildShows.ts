import fc from 'fast-check'
import { uniformInt } from 'pure-rand/distribution/uniformInt'
import { mersenne } from 'pure-rand/generator/mersenne'
import {
  type Destination,
  newDestination,
  pinnable,
  protocols,
  type Rendition,
  type Show,
} from '../../show'
import { randomShow } from './testShows'

/**
 * Shows of the kinds that are seldom drawn: relays with pins, places and least bitrates; ladders with
 * more steps than their rules take and pins on the lower ones; odd frame rates; priorities tied or at
 * the ends; devices without sessions, or none known; recordings on a full disk; bitrates that no step
 * meets; hand-offs that break their rules; protocols, paths and second ingests of all kinds.
 */
export function wildShow(seed: number, destinations: number): Show {
  const generator = mersenne(seed)
  const whole = (from: number, to: number): number => uniformInt(generator, from, to)
  const pick = <T>(list: readonly T[]): T => list[whole(0, list.length - 1)] as T
  const chance = (percent: number): boolean => whole(1, 100) <= percent
  const show = randomShow(seed, {
    destinations,
    grain: pick(['coarse', 'fine']),
    relay: chance(50),
    recording: chance(40),
    pins: chance(50),
    marginPoints: pick([0, 0.5, 0.5, 2]),
  }) as Show
  const priorities = pick([[3], [1, 5], [1, 2, 3, 4, 5]])
  const changed = (destination: Destination): Destination => {
    const { rules, connection } = destination
    const plan = { ...destination.plan, priority: pick(priorities) }
    if (connection === 'relay')
      return {
        ...destination,
        plan,
        rules: {
          ...rules,
          mostFed: pick([1, 2, 5, 30]),
          leastVideoBitrateKbps: pick([null, null, 800, 6000]),
        },
        renditions: destination.renditions.map((rendition) => ({
          ...rendition,
          pins: chance(30) ? [pick(pinnable.filter((pin) => pin !== 'device'))] : [],
        })),
      }
    const most = chance(15) ? pick([33, 137, 1999]) : rules.mostVideoBitrateKbps
    return {
      ...destination,
      plan,
      connection: chance(8) ? 'hand-off' : connection,
      rules: {
        ...rules,
        mostVideoBitrateKbps: most,
        leastVideoBitrateKbps: chance(10) ? most : null,
        framesPerSecond: chance(25)
          ? { type: 'one of', choices: [pick([24, 25, 30, 48, 50])] }
          : rules.framesPerSecond,
      },
      renditions: ladderOf(destination, chance(15) ? whole(2, 3) : 0, chance(50)),
    }
  }
  const changedAll = show.destinations.map(changed)
  const feeds = changedAll.find(({ connection }) => connection === 'relay')
  const fed = changedAll.map((destination) =>
    feeds && destination !== feeds && destination.canvas === feeds.canvas && chance(30)
      ? {
          ...destination,
          relayId: feeds.id,
          plan: { ...destination.plan, routePinned: chance(50) },
        }
      : destination,
  )
  const onItsPath = (destination: Destination): Destination => {
    const rtmpChunkBytes = pick([undefined, undefined, 128, 1024, 65_536])
    return {
      ...destination,
      protocol: pick(protocols),
      backupAddress: pick([null, null, 'rtmps://second.example/live']),
      path: {
        roundTripMilliseconds: pick([null, 20, 80]),
        lossPercent: pick([null, 0, 0.1, 3]),
        ...(rtmpChunkBytes !== undefined && { rtmpChunkBytes }),
      },
    }
  }
  const computer = pick(['as it is', 'as it is', 'unknown', 'no sessions'] as const)
  return {
    ...show,
    destinations: chance(50) ? fed.map(onItsPath) : fed,
    canvasPair: { ...show.canvasPair, framesPerSecond: pick([24, 25, 30, 50, 60, 60]) },
    computer: {
      ...show.computer,
      devices:
        computer === 'unknown'
          ? []
          : show.computer.devices.map((device) => ({
              ...device,
              sessions: computer === 'no sessions' ? null : device.sessions,
              // Measured ones, whose frames cost something whatever their size, and more together.
              ...(chance(40) && { togetherFactor: pick([1, 1.1, 1.6]) }),
              throughputs: device.throughputs.map((each) => ({
                ...each,
                ...(chance(40) && { millisecondsAFrame: pick([0, 0.5, 3]) }),
                ...(chance(20) && { efficiency: pick([0.05, 0.6, 1, 1.7, 20]) }),
              })),
            })),
      freeDiskGigabytes: pick([null, 0, 0.05, 500]),
    },
  }
}

/** The renditions of a destination as a ladder of so many steps, whatever its rules take; 0 leaves them. */
function ladderOf(
  { renditions, canvas }: Destination,
  steps: number,
  pinned: boolean,
): Rendition[] {
  const [main] = renditions
  if (steps === 0 || !main) return renditions
  return Array.from({ length: steps }, (_, step): Rendition => {
    const height = [720, 360, 240][step] as number
    const width = Math.round((height * 16) / 9 / 2) * 2
    return {
      ...main,
      ...(canvas === 'landscape' ? { width, height } : { width: height, height: width }),
      id: `${main.id}-${step}`,
      videoBitrateKbps: 1200 / (step + 1),
      pins: step > 0 && pinned ? ['video bitrate'] : main.pins,
    }
  })
}

/** Wild shows of up to so many destinations. */
export const wildShows = (mostDestinations: number): fc.Arbitrary<Show> =>
  fc
    .tuple(fc.integer({ min: 1, max: 1_000_000 }), fc.integer({ min: 1, max: mostDestinations }))
    .map(([seed, destinations]) => wildShow(seed, destinations))

/** As many destinations as a show may have, many of them alike. */
export function crowdedShow(seed: number, destinations: number): Show {
  const generator = mersenne(seed)
  const kinds = 1 + uniformInt(generator, 0, 4)
  const show = wildShow(seed, kinds)
  const relays = show.destinations.filter(({ connection }) => connection === 'relay')
  const models = show.destinations.filter(({ connection }) => connection !== 'relay')
  let last = 0
  const id = (): string => `crowd-${(last += 1)}`
  return {
    ...show,
    destinations: [
      ...Array.from({ length: destinations }, (_, index): Destination => {
        const model = models[index % models.length] ?? newDestination(id, 'Place', 'landscape')
        const own = id()
        return {
          ...model,
          id: own,
          name: `Place ${index + 1}`,
          renditions: model.renditions.map((each, step) => ({ ...each, id: `${own}-${step}` })),
        }
      }),
      ...relays,
    ],
    lines: show.lines.map((line) => ({
      ...line,
      samples: line.samples.map((sample) => ({
        ...sample,
        uploadKbps: (sample.uploadKbps * destinations) / kinds,
      })),
    })),
  }
}
