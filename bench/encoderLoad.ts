import { mkdtemp, rm } from 'node:fs/promises'
import { availableParallelism, tmpdir } from 'node:os'
import { join } from 'node:path'
import { loadOn } from '@green-mantle/core/fit'
import { measuredSizes } from '@green-mantle/core/measured'
import type { Device } from '@green-mantle/core/show'
import {
  endlessly,
  type EncodeSpec,
  inputOf,
  makeClips,
  nowhere,
  softwareEncoder,
} from '../server/measuring/measuredEncodes'
import { measureComputer } from '../server/measuring/measureComputer'
import { runTogether } from '../server/measuring/runs'
import type { Area } from './figure'

const { signal } = new AbortController()
const times = { settleSeconds: 0.6, seconds: 2 }
/** Of so many looks at a mix the middle one counts: the machine may be shared. */
const looks = 3
const framesPerSecond = 30

const [measuredLarge, measuredSmall] = measuredSizes
const sizes = [
  { width: 1920, height: 1080 },
  measuredLarge,
  { width: 854, height: 480 },
  measuredSmall,
] as const
const [full, large, middle, small] = sizes
const h264 = 'h264' as const

/** Encodes that run at once: of sizes that were measured and of two that were not. */
const mixes: Record<string, EncodeSpec[]> = {
  two_alike: [
    { codec: h264, effort: 'brisk', ...large },
    { codec: h264, effort: 'brisk', ...large },
  ],
  large_and_small: [
    { codec: h264, effort: 'balanced', ...full },
    { codec: h264, effort: 'balanced', ...small },
  ],
  two_efforts: [
    { codec: h264, effort: 'fastest', ...full },
    { codec: h264, effort: 'fine', ...middle },
  ],
  a_ladder: [
    { codec: h264, effort: 'brisk', ...full },
    { codec: h264, effort: 'brisk', ...large },
    { codec: h264, effort: 'brisk', ...middle },
    { codec: h264, effort: 'brisk', ...small },
  ],
  many_small: Array.from({ length: 4 }, () => ({
    codec: h264,
    effort: 'balanced' as const,
    ...small,
  })),
  three_sizes: [
    { codec: h264, effort: 'fine', ...large },
    { codec: h264, effort: 'brisk', ...middle },
    { codec: h264, effort: 'fastest', ...small },
  ],
}

/** Share of the processor that a frame a second takes. */
async function shareOf(args: readonly (readonly string[])[]): Promise<number[]> {
  const results = await runTogether(args, times, signal)
  return results.map(({ framesPerProcessorSecond }) => 1 / (framesPerProcessorSecond ?? NaN))
}

const sum = (shares: readonly number[]): number => shares.reduce((total, share) => total + share, 0)
const middleOf = (values: readonly number[]): number =>
  values.toSorted((a, b) => a - b)[values.length >> 1] as number

/** By which is told how slow the machine is just now. */
const yardstick: EncodeSpec = { codec: h264, effort: 'brisk', ...large }

/**
 * The load that the model foretells for mixes of encodes, from what was measured of each alone at two
 * sizes, over what they took of the processor. It is the processes' own time that counts, so that what
 * else runs on the machine changes little; what it still changes within the minutes between the pass and
 * a mix is told by one encode that runs right before and right after either, and taken out.
 */
const area: Area = async () => {
  const folder = await mkdtemp(join(tmpdir(), 'green-mantle-bench-'))
  try {
    const clips = await makeClips(folder, sizes)
    const clipOf = ({ width }: { width: number }): string => clips.get(width) as string
    const argumentsOf = (spec: EncodeSpec): string[] =>
      endlessly(clipOf(spec), softwareEncoder(spec))
    const yardsticks: number[] = []
    /** What `work` gives, and what a frame of the yardstick took around it. */
    async function besideYardstick<T>(work: () => Promise<T>): Promise<[result: T, took: number]> {
      const before = sum(await shareOf([argumentsOf(yardstick)]))
      const result = await work()
      const took = (before + sum(await shareOf([argumentsOf(yardstick)]))) / 2
      yardsticks.push(took)
      return [result, took]
    }

    const [{ computer }, tookAtPass] = await besideYardstick(() =>
      measureComputer({
        ...{ pass: 'quick' as const, installation: 'bench', recordingsFolder: folder, signal },
        clip: null,
        report: () => {},
      }),
    )
    const processor = computer.devices.find(({ kind }) => kind === 'processor') as Device
    const decoding = new Map<number, number>()
    for (const { width } of sizes) {
      const [shares, took] = await besideYardstick(() =>
        shareOf([[...inputOf(clipOf({ width })), ...nowhere]]),
      )
      decoding.set(width, (sum(shares) * tookAtPass) / took)
    }
    const figures = []
    for (const [name, mix] of Object.entries(mixes)) {
      const taken: number[] = []
      for (let look = 0; look < looks; look += 1) {
        const [shares, took] = await besideYardstick(() => shareOf(mix.map(argumentsOf)))
        taken.push((sum(shares) * tookAtPass) / took)
      }
      const foretold = mix.map(
        (spec) =>
          (loadOn(processor, { ...spec, framesPerSecond }) ?? NaN) / framesPerSecond +
          (decoding.get(spec.width) as number),
      )
      figures.push({ name, value: sum(foretold) / middleOf(taken), unit: 'foretold / taken' })
    }
    return [
      ...figures,
      { name: 'cores', value: availableParallelism(), unit: '' },
      {
        name: 'yardstick',
        value: Math.max(...yardsticks) / Math.min(...yardsticks),
        unit: 'slowest / quickest',
      },
      { name: 'together', value: processor.togetherFactor ?? 1, unit: 'factor' },
    ]
  } finally {
    await rm(folder, { recursive: true, force: true })
  }
}
export default area
