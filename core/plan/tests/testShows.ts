import { demoComputers, demoShow } from '@green-mantle/demo'
import { uniformInt } from 'pure-rand/distribution/uniformInt'
import { mersenne } from 'pure-rand/generator/mersenne'
import {
  type Codec,
  type Computer,
  type Destination,
  lineOf,
  newDestination,
  newRecording,
  newRendition,
  type Rendition,
  type Show,
  type Size,
} from '../../show'
import type { PlannedShow } from '../problem/renditionRequests'

export interface RandomShowOptions {
  destinations: number
  /** Coarse makes few bitrates, for solvers that list every choice. */
  grain: 'coarse' | 'fine'
  relay?: boolean
  recording?: boolean
  pins?: boolean
  /** Some destinations are like others but for their priority. */
  alike?: boolean
  devices?: number
  /** How far below the best a plan may stay; 0 if not said. */
  marginPoints?: number
}

const sizes = {
  landscape: [
    { width: 1920, height: 1080 },
    { width: 1280, height: 720 },
    { width: 854, height: 480 },
  ],
  vertical: [
    { width: 1080, height: 1920 },
    { width: 720, height: 1280 },
  ],
} as const

/** A show made by chance; the same seed makes the same show. */
export function randomShow(seed: number, options: RandomShowOptions): PlannedShow {
  const generator = mersenne(seed)
  const whole = (from: number, to: number): number => uniformInt(generator, from, to)
  const pick = <T>(list: readonly T[]): T => list[whole(0, list.length - 1)] as T
  const chance = (percent: number): boolean => whole(1, 100) <= percent
  let last = 0
  const id = (): string => `id-${(last += 1)}`
  const isCoarse = options.grain === 'coarse'

  const codecs: Codec[][] = isCoarse
    ? [['h264'], ['h264', 'hevc']]
    : [['h264'], ['h264'], ['h264', 'hevc'], ['h264', 'hevc', 'av1']]
  const computer = isCoarse ? smallComputer(whole, chance) : largeComputer(options.devices ?? 3)
  const destinations = Array.from({ length: options.destinations }, (_, index): Destination => {
    const canvas = chance(60) ? 'landscape' : 'vertical'
    const made = newDestination(id, `Place ${index + 1}`, canvas)
    const offered: readonly Size[] = sizes[canvas]
    const mostVideoBitrateKbps = isCoarse ? pick([600, 900, 1200]) : pick([3000, 4000, 6000, 9000])
    const rendition: Rendition = {
      ...(made.renditions[0] as Rendition),
      ...pick(offered),
      framesPerSecond: pick([30, 60]),
      videoBitrateKbps: isCoarse ? pick([300, 425, 600]) : pick([1500, 2500, 3000]),
      audioBitrateKbps: isCoarse ? pick([96, 128]) : pick([128, 128, 160]),
      pins:
        options.pins && chance(30)
          ? [pick(['size', 'frame rate', 'video bitrate', 'effort'] as const)]
          : [],
    }
    const lower: Rendition = {
      ...newRendition(id(), canvas),
      ...(offered.at(-1) as Size),
      audioBitrateKbps: rendition.audioBitrateKbps,
    }
    const isLadder = chance(12)
    const destination: Destination = {
      ...made,
      protocol: pick(['rtmp', 'rtmps', 'srt']),
      viewers: pick([['desk'], ['phone'], ['desk', 'tv']]),
      backupAddress: chance(8) ? 'rtmp://backup.example/live' : null,
      plan: {
        priority: whole(1, 5),
        mustKeep: chance(10),
        leftOut: false,
        planned: false,
        routePinned: !(options.relay && chance(60)),
        newerCodecs: null,
      },
      rules: {
        ...made.rules,
        codecs: pick(codecs),
        // The steps of a ladder differ in size.
        sizes: {
          type: 'one of',
          sizes: chance(40) && !isLadder ? [pick(offered)] : [...offered],
        },
        framesPerSecond: chance(30)
          ? { type: 'one of', choices: [30] }
          : { type: 'up to', most: 60 },
        leastVideoBitrateKbps: chance(20) ? 300 : null,
        mostVideoBitrateKbps,
        highestLevel: { h264: chance(20) ? '4' : null, hevc: null, av1: null },
        mostRenditions: isLadder ? 2 : 1,
      },
      renditions: isLadder ? [rendition, lower] : [rendition],
    }
    return isCoarse ? destination : withinRules(destination)
  })
  if (options.alike)
    destinations.forEach(({ id: own, name, plan }, index) => {
      const other = destinations[whole(0, index)]!
      if (chance(70))
        destinations[index] = {
          ...other,
          ...{ id: own, name },
          plan: { ...other.plan, priority: plan.priority },
          renditions: other.renditions.map((rendition) => ({ ...rendition, id: id() })),
        }
    })
  if (options.relay) {
    const relay = newDestination(id, 'Relay', 'landscape')
    destinations.push({
      ...relay,
      connection: 'relay',
      protocol: 'srt',
      rules: { ...relay.rules, mostFed: whole(2, 3), codecs: ['h264'] },
      renditions: [{ ...(relay.renditions[0] as Rendition), audioBitrateKbps: 128 }],
    })
  }
  const wanted = destinations.reduce(
    (sum, { rules }) => sum + rules.mostVideoBitrateKbps * (chance(50) ? 0.7 : 0.35),
    0,
  )
  const uploadKbps = Math.round((wanted * whole(isCoarse ? 15 : 45, 110)) / 100) + 200
  const sample = {
    ...(lineOf(demoShow).samples[0] as Show['lines'][number]['samples'][number]),
    uploadKbps: 2 * uploadKbps,
  }
  return {
    destinations,
    recordings: options.recording
      ? [
          {
            ...newRecording(id, 'File', { canvas: 'landscape', size: sizes.landscape[0] }),
            mostVideoBitrateKbps: isCoarse ? 900 : 12_000,
          },
        ]
      : [],
    computer,
    fit: {
      automatic: true,
      floorScore: isCoarse ? pick([0, 20, 40]) : 50,
      marginPoints: options.marginPoints ?? 0,
      shapeMarginPoints: 2,
      newerCodecs: true,
    },
    lines: [
      {
        ...lineOf(demoShow),
        medium: null,
        // Holds every peak.
        headroomPercent: 50,
        otherTraffic: [],
        samples: [sample],
      },
    ],
    lineId: demoShow.lineId,
    ownPicture: null,
    pictureKind: pick(['talking', 'hands', 'action'] as const),
    canvasPair: demoShow.canvasPair,
    durationMinutes: 60,
  }
}

/** What is pinned can be had: a show in which it cannot is told at once, and shows nothing of the search. */
function withinRules(destination: Destination): Destination {
  const { rules, renditions } = destination
  const sizes = rules.sizes.type === 'one of' ? rules.sizes.sizes : []
  const isOffered = (rendition: Rendition): boolean =>
    sizes.some(({ width, height }) => rendition.width === width && rendition.height === height)
  return {
    ...destination,
    rules: { ...rules, highestLevel: { h264: null, hevc: null, av1: null } },
    renditions: renditions.map((rendition) => ({
      ...rendition,
      ...(isOffered(rendition) ? {} : sizes[0]),
      framesPerSecond: rules.framesPerSecond.type === 'one of' ? 30 : rendition.framesPerSecond,
    })),
  }
}

/** One or two devices with two efforts, often too few sessions and too slow. */
function smallComputer(
  whole: (from: number, to: number) => number,
  chance: (percent: number) => boolean,
): Computer {
  const device = (
    id: string,
    sessions: number | null,
    speed: number,
  ): Computer['devices'][number] => ({
    id,
    name: id,
    kind: 'graphics',
    plannedSharePercent: 80,
    sessions,
    largest: { width: 4096, height: 4096 },
    throughputs: [
      { codec: 'h264', effort: 'fastest', megapixelsPerSecond: speed },
      { codec: 'h264', effort: 'balanced', megapixelsPerSecond: speed / 2 },
      ...(chance(50)
        ? [{ codec: 'hevc' as const, effort: 'fastest' as const, megapixelsPerSecond: speed / 2 }]
        : []),
    ],
  })
  const devices = [device('first', chance(50) ? whole(1, 3) : null, whole(60, 600))]
  if (chance(60)) devices.push(device('second', whole(1, 3), whole(100, 900)))
  return { name: 'small', devices, freeDiskGigabytes: chance(50) ? 0.3 : null, measured: null }
}

function largeComputer(count: number): Computer {
  const [desktop, laptop] = demoComputers as [Computer, Computer]
  return {
    ...desktop,
    devices: [...desktop.devices, ...laptop.devices.slice(1)].slice(0, count),
  }
}

/** A show of many unlike destinations, on a share of the upload that they should have. */
export function crowdOnShortLine(destinations: number, seed: number, share: number): PlannedShow {
  const options = { destinations, relay: true, pins: true, marginPoints: 0.5 }
  const recording = seed % 2 === 0
  return shortened(randomShow(seed, { ...options, grain: 'fine', recording }), share)
}

/** A show with a share of the upload that it should have. */
export const shortened = (show: PlannedShow, share: number): PlannedShow => ({
  ...show,
  lines: show.lines.map((line) => ({
    ...line,
    samples: line.samples.map((sample) => ({ ...sample, uploadKbps: sample.uploadKbps * share })),
  })),
})
