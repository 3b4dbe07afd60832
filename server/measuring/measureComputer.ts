import { rm } from 'node:fs/promises'
import { cpus } from 'node:os'
import { type GraphicsFamily, listedGraphics, softwareEncoders } from '@green-mantle/core/encoding'
import {
  type CodecEffort,
  type DecodingRun,
  type EncodingRun,
  growthThatCounts,
  measuredSizes,
  type MeasuringPass,
  type Mix,
  plannedMixes,
  type PlannedRun,
  plannedRuns,
  runSeconds,
  throughputsFrom,
  togetherFactor,
  withEfficiencies,
  withoutDoubtful,
} from '@green-mantle/core/measured'
import {
  type Codec,
  codecs,
  type Computer,
  type ComputerMeasured,
  type Device,
  efforts,
  plannedShareLimitsPercent,
} from '@green-mantle/core/show'
import { makeWorkFolder } from '../files/workFolders'
import { askWhatIsCarried } from './carrying'
import { type NamedClip, Stopped } from './clip'
import { listedEncoders, programVersion } from './encoderProgram'
import { freeDiskGigabytes } from './freeDisk'
import {
  type DeviceEncoder,
  endlessly,
  type EncodeSpec,
  graphicsEncoder,
  inputOf,
  makeClips,
  nowhere,
  softwareEncoder,
} from './measuredEncodes'
import {
  efficienciesOf,
  type LikenessReference,
  makeLikenessReference,
  makeOriginalFrom,
} from './measureEfficiencies'
import { type RunResult, runTogether } from './runs'
import { doubtInWords, settleDoubts } from './settleDoubts'

/** What is told while measuring goes on. */
export interface MeasuringReport {
  doing: string
  done: number
  of: number
  /** What is known so far; complete enough to be kept if it is stopped here. */
  computer: Computer
}

export interface MeasuringOptions {
  pass: MeasuringPass
  installation: string
  /** Where recordings go: its free room is read. */
  recordingsFolder: string
  /** By which is measured what encoders get out of a bit; null for a made picture. */
  clip: NamedClip | null
  signal: AbortSignal
  report: (report: MeasuringReport) => void
}

const processorId = 'processor'
const decodingSettleSeconds = 0.2
const mixSettleSeconds = 0.6
/** A graphics encoder needs next to none. */
const graphicsSettleSeconds = 0.2
/** Enough to see whether an encoder opens. */
const justOpened = { settleSeconds: 0, seconds: 0.2 }

/** What of a run says what a frame costs: on the processor the time of it that it took, elsewhere how fast it went. */
type RateOf = (result: RunResult) => number | null
const onProcessor: RateOf = ({ framesPerProcessorSecond }) => framesPerProcessorSecond
const byTheClock: RateOf = ({ framesPerSecond }) => framesPerSecond

const sumOf = (values: readonly (number | null)[]): number =>
  values.reduce<number>((sum, value) => sum + (value ?? 0), 0)

/** Runs a list of runs one after the other; several at once only as long as they bring more. */
async function runAll(
  runs: readonly PlannedRun[],
  argumentsOf: (spec: EncodeSpec) => string[],
  {
    rateOf,
    signal,
    told,
  }: {
    rateOf: RateOf
    signal: AbortSignal
    told: (runs: EncodingRun[], now: PlannedRun) => void
  },
): Promise<EncodingRun[]> {
  const measured: EncodingRun[] = []
  for (const run of runs) {
    if (signal.aborted) break
    told(measured, run)
    if (run.atOnce > 1 && !grew(measured, run)) continue
    const results = await runTogether(
      Array.from({ length: run.atOnce }, () => argumentsOf(run)),
      run,
      signal,
    )
    const rates = results.map(run.atOnce === 1 ? rateOf : byTheClock)
    if (signal.aborted || rates.some((rate) => rate === null)) continue
    const { codec, effort, width, height, atOnce } = run
    measured.push({
      ...{ codec, effort, width, height, atOnce },
      framesPerSecond: sumOf(rates),
      ...(rateOf === onProcessor
        ? { deviceShare: sumOf(results.map(({ processorShare }) => processorShare)) }
        : {}),
    })
  }
  return measured
}

const alone = (runs: readonly EncodingRun[]): EncodingRun[] =>
  runs.filter(({ atOnce }) => atOnce === 1)

/** What was run several at once, each as a mix of like ones. */
const alikeAtOnce = (runs: readonly EncodingRun[]): Mix[] =>
  runs.flatMap((run) =>
    run.atOnce > 1 && run.deviceShare ? [{ runs: [run], deviceShare: run.deviceShare }] : [],
  )

/** Whether the step before brought more than the one before that. */
function grew(
  measured: readonly EncodingRun[],
  { codec, effort, width, atOnce }: PlannedRun,
): boolean {
  const rateOf = (count: number): number | undefined =>
    measured.find(
      (run) =>
        run.codec === codec && run.effort === effort && run.width === width && run.atOnce === count,
    )?.framesPerSecond
  // What one alone brings is counted otherwise, so that two and three are always run.
  const before = rateOf(atOnce - 1)
  if (before === undefined) return false
  const earlier = atOnce > 3 ? rateOf(atOnce - 2) : undefined
  return earlier === undefined || before > earlier * (1 + growthThatCounts)
}

/** What cannot be right is looked at for longer, and once. */
const longerFactor = 2

const longerRuns = (
  runs: readonly PlannedRun[],
  doubtful: readonly CodecEffort[],
): PlannedRun[] => {
  const wanted = runs.filter(
    ({ codec, effort, atOnce }) =>
      atOnce === 1 && doubtful.some((each) => each.codec === codec && each.effort === effort),
  )
  const once = new Map(wanted.map((run) => [`${run.codec} ${run.effort} ${run.width}`, run]))
  return [...once.values()].map((run) => ({ ...run, seconds: run.seconds * longerFactor }))
}

/** Opens more and more encodes on a graphics encoder until one is refused; null where none is within what is tried. */
async function sessionsOf(
  argumentsOf: () => string[],
  signal: AbortSignal,
): Promise<number | null> {
  const maxTried = 12
  for (let count = 2; count <= maxTried && !signal.aborted; count += 1) {
    const results = await runTogether(
      Array.from({ length: count }, () => argumentsOf()),
      { settleSeconds: 0, seconds: 1 },
      signal,
    )
    const opened = results.filter((result) => result.opened).length
    if (opened < count) return Math.max(1, opened)
  }
  return null
}

/** What was measured, without what cannot be right; what that is, in words. */
export interface MeasuredComputer {
  computer: Computer
  doubt: string | null
}

/** Measures what this computer's encoders get through; see docs/measured.md. */
export async function measureComputer(options: MeasuringOptions): Promise<MeasuredComputer> {
  const { pass, signal, report, installation } = options
  const isThorough = pass === 'thorough'
  const clip = isThorough ? options.clip : null
  const folder = await makeWorkFolder('measuring')
  try {
    // First, since a clip that cannot be decoded is better said at once.
    if (clip)
      await makeOriginalFrom(clip.pieces, { folder, signal }).catch((error: unknown) => {
        if (!(error instanceof Stopped)) throw error
      })
    const processor = cpus()[0]?.model.trim() || 'Processor'
    const state = { doing: 'Asking the encoder program', done: 0, of: 1 }
    const measured: ComputerMeasured = {
      at: new Date().toISOString(),
      installation,
      processor,
      program: await programVersion(),
      carries: await askWhatIsCarried(),
    }
    const free = await freeDiskGigabytes(options.recordingsFolder)
    const devices: Device[] = []
    const known = (): Computer => ({
      name: 'This computer',
      devices: devices.filter(({ throughputs }) => throughputs.length > 0),
      freeDiskGigabytes: free,
      measured,
    })
    const tell = (doing: string, advance = 1): void => {
      state.doing = doing
      state.done += advance
      report({ ...state, computer: known() })
    }
    const listed = await listedEncoders()
    const found = codecs.filter((codec) => listed.has(softwareEncoders[codec].name))
    const clips = await makeClips(folder, measuredSizes)
    const clipOf = ({ width }: { width: number }): string => clips.get(width) as string
    const runs = plannedRuns(pass, found)
    const mixes = plannedMixes(found)
    const graphics = listedGraphics(listed)
    state.of =
      measuredSizes.length +
      runs.length +
      mixes.length +
      graphics.length +
      (isThorough ? found.length * efforts.length : 0) +
      1
    const seconds = runSeconds[pass]

    const decoding: DecodingRun[] = []
    for (const size of measuredSizes) {
      tell(`Decoding ${size.width}×${size.height}`)
      const [result] = await runTogether(
        [[...inputOf(clipOf(size)), ...nowhere]],
        { settleSeconds: decodingSettleSeconds, seconds },
        signal,
      )
      const rate = result && onProcessor(result)
      if (rate) decoding.push({ ...size, framesPerSecond: rate })
    }

    const own: Device = {
      id: processorId,
      name: `Processor, ${cpus().length} ${cpus().length === 1 ? 'core' : 'cores'}`,
      kind: 'processor',
      plannedSharePercent: plannedShareLimitsPercent.default,
      sessions: null,
      largest: { width: 7680, height: 4320 },
      throughputs: [],
    }
    devices.push(own)
    const softwareArguments = (spec: EncodeSpec): string[] =>
      endlessly(clipOf(spec), softwareEncoder(spec))
    const ran = await runAll(runs, softwareArguments, {
      rateOf: onProcessor,
      signal,
      told: (so, { codec, effort, width, height, atOnce }) => {
        own.throughputs = throughputsFrom(alone(so), decoding)
        tell(
          `${softwareEncoders[codec].name}, ${effort}, ${width}×${height}${atOnce > 1 ? `, ${atOnce} at once` : ''}`,
        )
      },
    })
    const settled = await settleDoubts(
      alone(ran),
      (known) => throughputsFrom(known, decoding),
      (doubtful) =>
        runAll(longerRuns(runs, doubtful), softwareArguments, {
          rateOf: onProcessor,
          signal,
          told: (_, { codec, effort }) =>
            tell(`${softwareEncoders[codec].name}, ${effort}, again: it cannot be`, 0),
        }),
    )
    own.throughputs = withoutDoubtful(throughputsFrom(settled.runs, decoding), settled.doubtful)

    const mixed: Mix[] = []
    for (const mix of mixes) {
      if (signal.aborted) break
      tell(`${mix.length} different encodes at once`)
      const results = await runTogether(
        mix.map((spec) => endlessly(clipOf(spec), softwareEncoder(spec))),
        { settleSeconds: mixSettleSeconds, seconds: Math.max(2, seconds) },
        signal,
      )
      const rates = results.map(({ framesPerSecond }) => framesPerSecond)
      if (!signal.aborted && rates.every((rate) => rate !== null))
        mixed.push({
          runs: mix.map((spec, index) => ({ ...spec, framesPerSecond: rates[index] as number })),
          deviceShare: sumOf(results.map(({ processorShare }) => processorShare)),
        })
    }
    // Every process of a mix decodes for itself, so that its frames are counted at what they cost with that.
    const factor = togetherFactor(
      [...mixed, ...alikeAtOnce(ran)],
      withoutDoubtful(throughputsFrom(settled.runs, []), settled.doubtful),
    )
    if (factor !== undefined) own.togetherFactor = factor

    const reference =
      isThorough && !signal.aborted
        ? await makeLikenessReference({ folder, signal }, { isOriginalThere: clip !== null })
        : null
    if (reference && clip) measured.efficiencyClip = clip.name
    await learnEfficiencies(own, softwareEncoder, reference, (spec) =>
      tell(`How good at its bits: ${spec}`),
    )

    for (const { family, codecs: listedCodecs } of graphics) {
      if (signal.aborted) break
      tell(`Opening ${family.name}`)
      const device = await measureGraphics(family, listedCodecs, { clipOf, seconds, signal })
      if (!device) continue
      devices.push(device)
      await learnEfficiencies(device, graphicsEncoder(family), reference)
    }
    tell('Done')
    return { computer: known(), doubt: signal.aborted ? null : doubtInWords(settled.doubtful) }
  } finally {
    await rm(folder, { recursive: true, force: true })
  }
}

/** Writes into a device what its encoders get out of a bit, one after the other; nothing where there is no reference. */
async function learnEfficiencies(
  device: Device,
  encoder: DeviceEncoder,
  reference: LikenessReference | null,
  told: (spec: string) => void = () => {},
): Promise<void> {
  if (!reference) return
  for await (const known of efficienciesOf(device, encoder, reference, told))
    device.throughputs = withEfficiencies(device.throughputs, known)
}

/** A family's encoders that open for real, with their speeds; null where none does. */
async function measureGraphics(
  family: GraphicsFamily,
  listed: readonly Codec[],
  {
    clipOf,
    seconds,
    signal,
  }: { clipOf: (size: { width: number }) => string; seconds: number; signal: AbortSignal },
): Promise<Device | null> {
  const [large] = measuredSizes
  const encoder = graphicsEncoder(family)
  const argumentsOf = (spec: EncodeSpec): string[] => endlessly(clipOf(spec), encoder(spec))
  const opened: Codec[] = []
  for (const codec of listed) {
    const spec = { codec, effort: 'balanced', ...large } as const
    const [result] = await runTogether([argumentsOf(spec)], justOpened, signal)
    if (result?.framesPerSecond) opened.push(codec)
  }
  const [first] = opened
  if (!first || signal.aborted) return null
  const runs = opened.flatMap((codec) =>
    efforts.flatMap((effort) =>
      measuredSizes.map((size) => ({
        ...{ codec, effort, ...size, atOnce: 1 },
        ...{ settleSeconds: graphicsSettleSeconds, seconds },
      })),
    ),
  )
  const ran = await runAll(runs, argumentsOf, {
    rateOf: byTheClock,
    signal,
    told: () => {},
  })
  return {
    id: `graphics-${family.suffix}`,
    name: family.name,
    kind: 'graphics',
    plannedSharePercent: plannedShareLimitsPercent.default,
    sessions: await sessionsOf(
      () => argumentsOf({ codec: first, effort: 'balanced', ...large }),
      signal,
    ),
    largest: { width: 4096, height: 4096 },
    throughputs: throughputsFrom(ran, []),
  }
}
