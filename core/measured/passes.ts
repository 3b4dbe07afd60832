import type { Codec, Effort } from '../show'
import { codecs, efforts } from '../show'

export const measuringPasses = ['quick', 'thorough'] as const
export type MeasuringPass = (typeof measuringPasses)[number]

/** The two sizes that tell a frame's fixed cost from what its pixels cost. */
export const measuredSizes = [
  { width: 1280, height: 720 },
  { width: 426, height: 240 },
] as const

/** How long one run of a pass goes on, after it has got going. */
export const runSeconds = { quick: 1, thorough: 5 } as const satisfies Record<MeasuringPass, number>
/**
 * What nearly everything is sent as is looked at twice, a while apart, and the better look counts: a
 * moment in which the computer was busy with something else makes a single one seem slow.
 */
const twiceSeenCodec: Codec = 'h264'
const lookSeconds = { quick: 0.6, thorough: 3 } as const satisfies Record<MeasuringPass, number>
/** AV1 comes a group of pictures at a time, of which a quick pass has to see some. */
const leastSeconds = { h264: 0, hevc: 0, av1: 2 } as const satisfies Record<Codec, number>

/**
 * So long an encoder goes on before it is looked at: it begins with frames that take it little, AV1 with
 * a whole group of them.
 */
const settleSeconds = { h264: 0.5, hevc: 0.5, av1: 1 } as const satisfies Record<Codec, number>

/** What one pass is to run of an encoder, in the order in which it tells most. */
export interface PlannedRun {
  codec: Codec
  effort: Effort
  width: number
  height: number
  atOnce: number
  /** Before it is looked at, and while it is. */
  settleSeconds: number
  seconds: number
}

/** Whether it grows with more at once is looked at here. */
const effortAtOnce: Effort = 'balanced'
export const maxAtOnce = 4

/** Every effort at both sizes, H.264 again; then one effort of H.264 several at once, in a thorough pass every effort of every codec. */
export function plannedRuns(pass: MeasuringPass, found: readonly Codec[]): PlannedRun[] {
  const here = codecs.filter((codec) => found.includes(codec))
  const times = (codec: Codec, seconds: number = runSeconds[pass]) => ({
    settleSeconds: settleSeconds[codec],
    seconds: Math.max(seconds, leastSeconds[codec]),
  })
  const looked = (codec: Codec) =>
    codec === twiceSeenCodec ? times(codec, lookSeconds[pass]) : times(codec)
  const alone = here.flatMap((codec) =>
    efforts.flatMap((effort) =>
      measuredSizes.map((size) => ({ codec, effort, ...size, atOnce: 1, ...looked(codec) })),
    ),
  )
  const again = alone.filter(({ codec }) => codec === twiceSeenCodec)
  const isThorough = pass === 'thorough'
  const codecsAtOnce = isThorough ? here : here.filter((codec) => codec === 'h264')
  const several = codecsAtOnce.flatMap((codec) =>
    efforts
      .filter((effort) => isThorough || effort === effortAtOnce)
      .flatMap((effort) =>
        Array.from({ length: maxAtOnce - 1 }, (_, index) => ({
          codec,
          effort,
          ...measuredSizes[0],
          atOnce: index + 2,
          ...times(codec),
        })),
      ),
  )
  return [...alone, ...again, ...several]
}

/** One of several different encodes that run at once. */
export type MixedEncode = Omit<PlannedRun, 'atOnce' | 'settleSeconds' | 'seconds'>

/** Different encodes to run at once, to see whether their loads add up. */
export const plannedMixes = (found: readonly Codec[]): MixedEncode[][] => {
  const [large, small] = measuredSizes
  if (!found.includes('h264')) return []
  return [
    [
      { codec: 'h264', effort: 'brisk', ...large },
      { codec: 'h264', effort: 'fine', ...small },
    ],
    [
      { codec: 'h264', effort: 'balanced', ...large },
      { codec: 'h264', effort: 'fastest', ...large },
      { codec: 'h264', effort: 'balanced', ...small },
    ],
  ]
}

/** Several at once that are no faster together than this share above fewer have reached what there is. */
export const growthThatCounts = 0.03
