import { breachesOf } from '../fit'
import {
  type CanvasPair,
  type Destination,
  framesPerSecondChoices,
  otherCanvas,
  type Rendition,
} from '../show'
import { codecNames, countInWords, kbpsInWords, sizeInWords, wholeNumber } from '../words'
import { keptSeconds } from './arrival'
import type { ArrivalReport } from './report'

/** Something that is not as it should be: against the destination's rules, against the plan, or not foreseen by it. */
export interface ArrivalFinding {
  kind: 'breach' | 'differs' | 'unforeseen'
  words: string
}

/** What a send was to be, and what it has to keep to. */
export interface ExpectedSend {
  destination: Destination
  rendition: Rendition
  canvasPair: CanvasPair
  /** kb/s that all sends may take. */
  usableKbps: number
}

/** Common practice, no published source: from here on lips and words come apart. */
const maxApartSeconds = 0.3
/** Less than this long nothing is said of it. */
const standsStillSeconds = 3
/** Rate control settles in the first seconds. */
const settledSeconds = 5
const maxGapSeconds = 1.5
/** By how much a bitrate may miss what was planned. */
const rateTolerance = 0.1

/** The accepted value nearest to one that was counted, or the rounded count where none is near. */
function countedFrameRate(counted: number): Rendition['framesPerSecond'] {
  const near = framesPerSecondChoices.find((choice) => Math.abs(choice - counted) < choice * 0.02)
  return near ?? (Math.round(counted) as Rendition['framesPerSecond'])
}

const isSampleRate = (value: number | null): value is Rendition['audioSampleRateHz'] =>
  value === 44_100 || value === 48_000

/** What arrived, as a rendition that rules can be held against; what is not known is as planned. */
function arrivedRendition(report: ArrivalReport, planned: Rendition): Rendition {
  const { picture, sound } = report
  const settled = report.seconds >= settledSeconds
  const spacing = picture?.longestKeyframeSpacingSeconds ?? null
  return {
    ...planned,
    ...(picture?.codec && { codec: picture.codec }),
    ...(picture?.width && picture.height
      ? { width: picture.width, height: picture.height }
      : undefined),
    ...(picture?.framesPerSecond && settled
      ? { framesPerSecond: countedFrameRate(picture.framesPerSecond) }
      : undefined),
    ...(picture && { bFrames: picture.bFrames }),
    ...(picture && {
      keyframeIntervalSeconds:
        Math.round(Math.max(spacing ?? 0, picture.sinceKeyframeSeconds) * 10) / 10 ||
        planned.keyframeIntervalSeconds,
    }),
    // A bitrate is a mean: only what is clearly above is told.
    ...(picture && settled && picture.bitrateKbps > planned.videoBitrateKbps * (1 + rateTolerance)
      ? { videoBitrateKbps: Math.round(picture.bitrateKbps) }
      : undefined),
    ...(sound?.codec && { audioCodec: sound.codec }),
    ...(isSampleRate(sound?.sampleRateHz ?? null) && {
      audioSampleRateHz: sound?.sampleRateHz as Rendition['audioSampleRateHz'],
    }),
    ...(sound?.channels && { audioChannels: sound.channels === 1 ? 1 : 2 }),
    ...(sound && settled && sound.bitrateKbps > planned.audioBitrateKbps * (1 + rateTolerance)
      ? { audioBitrateKbps: Math.round(sound.bitrateKbps) }
      : undefined),
  }
}

/** What of the rules the send breaks, each with the value that would satisfy it. */
function breachesIn(
  report: ArrivalReport,
  { destination, rendition, canvasPair }: ExpectedSend,
): ArrivalFinding[] {
  const arrived = arrivedRendition(report, rendition)
  return breachesOf({ ...destination, renditions: [arrived] }, canvasPair)
    .filter(({ rule }) => rule !== 'shape')
    .map(({ words, remedy }) => ({
      kind: 'breach',
      words: remedy ? `${words} ${remedy.words}.` : words,
    }))
}

/** That the other canvas comes in here, told by its shape. */
function wrongCanvas(
  { picture }: ArrivalReport,
  { destination: { name, canvas } }: ExpectedSend,
): ArrivalFinding[] {
  if (!picture?.width || !picture.height) return []
  const isWide = picture.width > picture.height
  if (isWide === (canvas === 'landscape') || picture.width === picture.height) return []
  return [
    {
      kind: 'breach',
      words: `${sizeInWords({ width: picture.width, height: picture.height })} arrives: that is the ${otherCanvas[canvas]} canvas, and ${name} is sent the ${canvas} one. Its address and key may be those of another send.`,
    },
  ]
}

/** What hardly any player of a platform shows: colours kept finer than 4:2:0, more than 8 bits, halves of lines. */
function unshowable({ picture }: ArrivalReport): ArrivalFinding[] {
  const found: string[] = []
  const profile = picture?.profile ?? ''
  if (/4:4:4|4:2:2|Professional/.test(profile))
    found.push(
      `${profile} arrives: its colours are kept finer than players of platforms show. Set 4:2:0 (often called NV12 or yuv420p).`,
    )
  else if (/\b1[02]\b/.test(profile))
    found.push(
      `${profile} arrives, with more than 8 bits: most players show nothing of it. Set 8 bits.`,
    )
  if (picture?.isInterlaced)
    found.push(
      'The picture is interlaced: viewers see combs where something moves. Set progressive.',
    )
  return found.map((words) => ({ kind: 'breach', words }))
}

/** Profiles of H.264 from plain to fine; players that show a finer one show the plainer ones too. */
const profileOrder = ['baseline', 'main', 'high'] as const

function profileDifference(
  { picture }: ArrivalReport,
  { codec, encoder }: Rendition,
): string | null {
  if (codec !== 'h264' || picture?.codec !== 'h264' || !picture.profile) return null
  const arrived = profileOrder.find((name) =>
    new RegExp(`^(?:Constrained )?${name}$`, 'i').test(picture.profile ?? ''),
  )
  if (arrived === undefined || arrived === encoder.profile) return null
  const isPlainer = profileOrder.indexOf(arrived) < profileOrder.indexOf(encoder.profile)
  return `The profile ${picture.profile} arrives, planned is ${encoder.profile}: ${isPlainer ? 'the picture is worse at the same bitrate' : 'older players may not show it'}.`
}

/** 29.97 and the like: a thousandth less than the whole number. */
const isBroadcastRate = (counted: number, planned: number): boolean =>
  Math.abs(counted / planned - 1000 / 1001) < 0.0003

/** A rate is told to a ten-thousandth after so long, though times come in whole milliseconds. */
const exactRateSeconds = 10

/** Where the send is not what was planned, though its rules may take it. */
function differencesIn(report: ArrivalReport, { rendition }: ExpectedSend): ArrivalFinding[] {
  const { picture, sound } = report
  const found: string[] = []
  const settled = report.seconds >= settledSeconds
  if (picture) {
    const { width, height, codec, framesPerSecond, bitrateKbps } = picture
    if (width && height && (width !== rendition.width || height !== rendition.height))
      found.push(`${sizeInWords({ width, height })} arrives, planned is ${sizeInWords(rendition)}.`)
    if (codec && codec !== rendition.codec)
      found.push(`${codecNames[codec]} arrives, planned is ${codecNames[rendition.codec]}.`)
    if (settled && framesPerSecond !== null) {
      const counted = countedFrameRate(framesPerSecond)
      if (counted !== rendition.framesPerSecond)
        found.push(
          `${Math.round(framesPerSecond * 10) / 10} frames a second arrive, planned are ${rendition.framesPerSecond}.`,
        )
      else if (
        report.seconds >= exactRateSeconds &&
        isBroadcastRate(framesPerSecond, rendition.framesPerSecond)
      )
        found.push(
          `${(rendition.framesPerSecond / 1.001).toFixed(2)} frames a second arrive, planned are ${rendition.framesPerSecond}: a frame is missing every ${Math.round(1001 / rendition.framesPerSecond)} s. Set the whole number.`,
        )
    }
    if (picture.hasVariableRate)
      found.push('Frames come at changing intervals: set a constant frame rate.')
    if (settled && Math.abs(bitrateKbps / rendition.videoBitrateKbps - 1) > rateTolerance)
      found.push(
        `${kbpsInWords(Math.round(bitrateKbps))} of picture arrive, planned are ${wholeNumber(rendition.videoBitrateKbps)}.`,
      )
    if (picture.bFrames !== rendition.bFrames && settled)
      found.push(`${picture.bFrames} B-frames arrive, planned are ${rendition.bFrames}.`)
    const spacing = picture.longestKeyframeSpacingSeconds
    if (spacing !== null && spacing > rendition.keyframeIntervalSeconds * 1.1 + 0.1)
      found.push(
        `A keyframe comes every ${Math.round(spacing * 10) / 10} s, planned is every ${rendition.keyframeIntervalSeconds} s.`,
      )
    const shortest = picture.shortestKeyframeSpacingSeconds
    if (
      settled &&
      spacing !== null &&
      shortest !== null &&
      spacing < rendition.keyframeIntervalSeconds * 0.75
    )
      found.push(
        `A keyframe comes every ${Math.round(spacing * 10) / 10} s, planned is every ${rendition.keyframeIntervalSeconds} s: each takes bits that the others miss.`,
      )
    const profile = profileDifference(report, rendition)
    if (profile !== null) found.push(profile)
    if (picture.hasOpenGroups)
      found.push(
        'Groups of pictures are open: a viewer who joins at a keyframe sees broken frames first. Set closed groups.',
      )
  }
  if (sound?.isHighEfficiency)
    found.push('The sound is HE-AAC, planned is AAC (low complexity): some platforms refuse it.')
  if (sound?.sampleRateHz && sound.sampleRateHz !== rendition.audioSampleRateHz)
    found.push(
      `Sound arrives at ${sound.sampleRateHz / 1000} kHz, planned is ${rendition.audioSampleRateHz / 1000}.`,
    )
  if (sound?.channels === 1 && rendition.audioChannels === 2)
    found.push('The sound is mono, planned is stereo.')
  return found.map((words) => ({ kind: 'differs', words }))
}

/** What neither plan nor rules foresee. */
function unforeseenIn(
  report: ArrivalReport,
  { rendition, usableKbps }: ExpectedSend,
): ArrivalFinding[] {
  const found: string[] = []
  const seconds = (value: number): string => `${Math.round(value)} s`
  if (!report.picture && report.seconds > standsStillSeconds) found.push('No picture arrives.')
  const missing = report.picture?.missingFrames ?? 0
  if (missing > 0 && report.picture)
    found.push(
      `${countInWords(missing, 'frame')} ${missing === 1 ? 'is' : 'are'} missing in the last ${Math.round(Math.min(report.seconds, keptSeconds))} s: left out by the sender, which did not keep up or could not send.`,
    )
  if (!report.sound && report.seconds > standsStillSeconds)
    found.push('No sound arrives: the send has no sound track.')
  if (report.silentSeconds >= standsStillSeconds)
    found.push(`The sound has been silent for ${seconds(report.silentSeconds)}.`)
  if (report.frozenSeconds >= standsStillSeconds)
    found.push(`The picture has not moved for ${seconds(report.frozenSeconds)}.`)
  if (report.sinceLastSeconds >= standsStillSeconds)
    found.push(`Nothing has arrived for ${seconds(report.sinceLastSeconds)}.`)
  else if (report.longestGapSeconds > maxGapSeconds)
    found.push(`Nothing arrived for ${Math.round(report.longestGapSeconds * 10) / 10} s once.`)
  const late = report.soundLateSeconds
  if (late !== null && Math.abs(late) > maxApartSeconds)
    found.push(
      `Sound and picture are ${Math.round(Math.abs(late) * 10) / 10} s apart: the sound comes ${late > 0 ? 'late' : 'early'}.`,
    )
  if (report.seconds >= settledSeconds && report.busiestSecondKbps > usableKbps)
    found.push(
      `Its busiest second takes ${kbpsInWords(Math.round(report.busiestSecondKbps))}, more than the ${wholeNumber(usableKbps)} of the usable upload; ${wholeNumber(rendition.videoBitrateKbps + rendition.audioBitrateKbps)} were planned as a mean.`,
    )
  return found.map((words) => ({ kind: 'unforeseen', words }))
}

/** Everything about a send that is not as it should be, the gravest first; empty where all is. */
export function findingsOf(report: ArrivalReport, expected: ExpectedSend): ArrivalFinding[] {
  const wrong = wrongCanvas(report, expected)
  return [
    ...wrong,
    ...breachesIn(report, expected),
    ...unshowable(report),
    ...(wrong.length > 0 ? [] : differencesIn(report, expected)),
    ...unforeseenIn(report, expected),
  ]
}
