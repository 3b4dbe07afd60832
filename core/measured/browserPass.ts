import {
  type Codec,
  type Computer,
  type Device,
  type Effort,
  plannedShareLimitsPercent,
} from '../show'
import { sentFromHere } from '../media'
import { type EncodingRun, throughputsFrom } from './costs'
import { growthThatCounts, maxAtOnce, measuredSizes, type PlannedRun } from './passes'

/** What a browser's encoders are asked for by name, each at a level that takes 1080p60 (WebCodecs' codec registry; from memory). */
const browserCodecNames = {
  h264: 'avc1.64002A',
  hevc: 'hvc1.1.6.L123.B0',
  av1: 'av01.0.09M.08',
} as const satisfies Record<Codec, string>

/** A browser knows two ways of working, not five efforts; which effort each stands for is ours. */
const browserModes = { fastest: 'realtime', balanced: 'quality' } as const satisfies Partial<
  Record<Effort, string>
>
export type BrowserEffort = keyof typeof browserModes
export const browserEfforts = Object.keys(browserModes) as BrowserEffort[]

export const browserKinds = ['processor', 'graphics'] as const satisfies readonly Device['kind'][]
export type BrowserKind = (typeof browserKinds)[number]

/** An encoder that a browser says it has. */
export interface BrowserEncoder {
  kind: BrowserKind
  codec: Codec
}

export interface BrowserRun extends Omit<PlannedRun, 'settleSeconds' | 'seconds'>, BrowserEncoder {
  effort: BrowserEffort
}

const framesPerSecond = 60
/** So many that the picture stays whole, and the encoder has something to do. */
const bitsPerPixel = 0.08

/** What a run asks of the browser's encoder, as WebCodecs takes it. */
export const browserConfigOf = ({
  kind,
  codec,
  effort,
  width,
  height,
}: Omit<BrowserRun, 'atOnce'>) => ({
  ...{ codec: browserCodecNames[codec], width, height, framerate: framesPerSecond },
  bitrate: Math.round(width * height * framesPerSecond * bitsPerPixel),
  bitrateMode: 'constant' as const,
  latencyMode: browserModes[effort],
  hardwareAcceleration:
    kind === 'processor' ? ('prefer-software' as const) : ('prefer-hardware' as const),
})

/** When the frame of a number is shown in a run, in microseconds, and whether it is a keyframe. */
export const browserFrameAt = (index: number): { timestamp: number; keyFrame: boolean } => ({
  timestamp: Math.round((index * 1e6) / framesPerSecond),
  keyFrame: index % (2 * framesPerSecond) === 0,
})

/** Every way of working at both sizes, alone and up to four at once. */
export const plannedBrowserRuns = (found: readonly BrowserEncoder[]): BrowserRun[] =>
  found.flatMap((encoder) =>
    browserEfforts.flatMap((effort) =>
      measuredSizes.flatMap((size) =>
        Array.from({ length: maxAtOnce }, (_, index) => ({
          ...{ ...encoder, effort, ...size, atOnce: index + 1 },
        })),
      ),
    ),
  )

/** What a run brought: of all that ran at once, together. */
export type MeasuredBrowserRun = BrowserRun & Pick<EncodingRun, 'framesPerSecond'>

const isAlike = (a: BrowserRun, b: BrowserRun): boolean =>
  a.kind === b.kind && a.codec === b.codec && a.effort === b.effort && a.width === b.width

/** Whether one more at once is worth running: alone always, then only as long as the last one brought more. */
export function isWorthRunning(run: BrowserRun, measured: readonly MeasuredBrowserRun[]): boolean {
  const rateOf = (count: number): number =>
    measured.find((each) => isAlike(each, run) && each.atOnce === count)?.framesPerSecond ?? 0
  if (run.atOnce === 1) return true
  return rateOf(run.atOnce - 1) > rateOf(run.atOnce - 2) * (1 + growthThatCounts)
}

export interface BrowserMachine {
  /** Which machine it is, as the browser there remembers it. */
  id: string
  /** "Chromium 156". */
  browser: string
  threads: number
  at: string
  /** How many encodes its graphics encoder took before it refused one; null where it refused none. */
  sessions: number | null
}

const largest = {
  processor: { width: 7680, height: 4320 },
  graphics: { width: 4096, height: 4096 },
} as const

/**
 * The computer on which a browser runs, from what its encoders got through. What a program there can
 * put into which protocol is not known, so that nothing is held against it.
 */
export function browserComputer(
  runs: readonly MeasuredBrowserRun[],
  { id, browser, threads, at, sessions }: BrowserMachine,
): Computer {
  const devices = browserKinds.flatMap((kind): Device[] => {
    const throughputs = throughputsFrom(
      runs.filter((run) => run.kind === kind),
      [],
    )
    if (throughputs.length === 0) return []
    return [
      {
        id: kind,
        name: kind === 'processor' ? `Processor, ${threads} threads` : 'Graphics encoder',
        kind,
        plannedSharePercent: plannedShareLimitsPercent.default,
        sessions: kind === 'graphics' ? sessions : null,
        largest: largest[kind],
        throughputs,
      },
    ]
  })
  return {
    name: 'This browser’s computer',
    devices,
    freeDiskGigabytes: null,
    measured: {
      at,
      installation: id,
      processor: `${threads} threads`,
      program: `${browser}, WebCodecs`,
      carries: {
        rtmp: [...sentFromHere.rtmp],
        rtmps: [...sentFromHere.rtmps],
        srt: [...sentFromHere.srt],
        whip: [...sentFromHere.whip],
      },
    },
  }
}
