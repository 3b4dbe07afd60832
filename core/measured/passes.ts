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

/** What one pass is to run of an encoder, in the order in which it tells most. */
export interface PlannedRun {
  codec: Codec
  effort: Effort
  width: number
  height: number
  atOnce: number
}

/** Whether it grows with more at once is looked at here. */
const effortAtOnce: Effort = 'balanced'
export const maxAtOnce = 4

/** Every effort at both sizes; then one effort of each codec several at once, in a thorough pass every effort. */
export function plannedRuns(pass: MeasuringPass, found: readonly Codec[]): PlannedRun[] {
  const here = codecs.filter((codec) => found.includes(codec))
  const alone = here.flatMap((codec) =>
    efforts.flatMap((effort) =>
      measuredSizes.map((size) => ({ codec, effort, ...size, atOnce: 1 })),
    ),
  )
  const several = here.flatMap((codec) =>
    efforts
      .filter((effort) => pass === 'thorough' || effort === effortAtOnce)
      .flatMap((effort) =>
        Array.from({ length: maxAtOnce - 1 }, (_, index) => ({
          codec,
          effort,
          ...measuredSizes[0],
          atOnce: index + 2,
        })),
      ),
  )
  return [...alone, ...several]
}

/** Different encodes to run at once, to see whether their loads add up. */
export const plannedMixes = (found: readonly Codec[]): Omit<PlannedRun, 'atOnce'>[][] => {
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
