import { type Arrival, type ArrivalReport, type ArrivedFrame, findingsOf } from '../arrival'
import type { EncodedOutput } from '../encoding'
import { usableUploadOf } from '../fit'
import { type SentFrame, wireBytesOfFrames } from '../network'
import { encodedPictureOf, scoreAtSizeOf, scoreOfLikeness } from '../media'
import { type Destination, type Show } from '../show'
import { kbpsInWords, renditionInWords, shareInWords } from '../words'
import type { TrialResult, TrialSend } from './trial'
import { longestWaitSeconds, missingSeconds } from './waits'

const kbps = (bytes: number, seconds: number): number =>
  Math.round((bytes * 8) / 1000 / Math.max(seconds, 0.001))

/** kb/s in each second since the first frame came, as they came in. */
export function perSecondKbps(frames: readonly ArrivedFrame[]): number[] {
  const first = frames[0]?.atSeconds
  if (first === undefined) return []
  const seconds: number[] = []
  for (const { atSeconds, bytes } of frames) {
    const second = Math.floor(atSeconds - first)
    seconds[second] = (seconds[second] ?? 0) + (bytes * 8) / 1000
  }
  return Array.from(seconds, (value) => Math.round(value ?? 0)).slice(0, 200)
}

/** The bytes that the frames which came should have taken on their way. */
function computedBytes(
  frames: readonly ArrivedFrame[],
  { muxer }: EncodedOutput,
  { seconds, lossPercent }: { seconds: number; lossPercent: number },
): number {
  const protocol = muxer === 'mpegts' ? 'srt' : muxer === 'whip' ? 'whip' : 'rtmp'
  const sent = frames.map(({ kind, bytes, presentSeconds, decodeSeconds }): SentFrame => ({
    kind,
    bytes,
    hasTwoTimeStamps: presentSeconds !== decodeSeconds,
    // Out of a transport stream sound comes with the head that it was given there.
    isAac: protocol === 'rtmp',
  }))
  const bytes = wireBytesOfFrames(sent, protocol, seconds, { lossPercent })
  return Math.round(bytes)
}

/** Frames of what arrived, held against those they were made from. */
export interface Likeness {
  ssim: number
  comparedFrames: number
}

function judgedPicture(
  show: Show,
  { rendition, feed }: EncodedOutput,
  likeness: Likeness | null,
): TrialSend['picture'] {
  if (!likeness) return null
  const picture = encodedPictureOf(show)
  const { canvas } = show.destinations.find(({ id }) => id === feed.ownerId) as Destination
  const { ssim, comparedFrames } = likeness
  return {
    ssim,
    comparedFrames,
    score: scoreOfLikeness(ssim, rendition.framesPerSecond, picture),
    plannedScore: scoreAtSizeOf(show.canvasPair[canvas], rendition, picture),
  }
}

/** From the first frame to the last, by one of their times. */
const spanOf = (frames: readonly ArrivedFrame[], time: 'atSeconds' | 'decodeSeconds'): number =>
  (frames.at(-1)?.[time] ?? 0) - (frames[0]?.[time] ?? 0)

/** What arrived of one send, held against what was planned. `wireBytes` as the listener counted them. */
export function judgedSend(
  show: Show,
  output: EncodedOutput,
  arrived: {
    arrival: Arrival | undefined
    report: ArrivalReport | null
    wireBytes: number | null
    /** How many packets crossed and how many of them were lost; null where they are not counted. */
    packets: { datagrams: number; lostDatagrams: number } | null
    /** How alike what arrived is to what was encoded; null where that was not measured. */
    likeness: Likeness | null
  },
): TrialSend {
  const { rendition, feed, key } = output
  const destination = show.destinations.find(({ id }) => id === feed.ownerId) as Destination
  const { arrival, report, wireBytes, packets, likeness } = arrived
  const frames = arrival?.frames ?? []
  const plannedKbps = rendition.videoBitrateKbps + rendition.audioBitrateKbps
  const planned = {
    key,
    name: feed.isBackup ? `${feed.name}, second ingest` : feed.name,
    canvas: destination.canvas,
    plannedWords: renditionInWords(rendition),
    plannedFramesPerSecond: rendition.framesPerSecond,
    plannedKbps,
  }
  if (!report?.picture)
    return {
      ...planned,
      arrivedWords: null,
      arrivedFramesPerSecond: null,
      arrivedKbps: null,
      busiestSecondKbps: null,
      longestKeyframeSpacingSeconds: null,
      wireBytes: null,
      computedWireBytes: null,
      longestGapSeconds: null,
      longestWaitSeconds: null,
      droppedSeconds: null,
      perSecondKbps: [],
      picture: null,
      findings: [{ kind: 'breach', words: 'Nothing of it arrived.' }],
    }
  const { picture } = report
  const video = frames.filter(({ kind }) => kind === 'video')
  // How many a second really came, by the listener's clock: less than planned where the encoder is late,
  // and no more than their own times say where the first ones waited and then came together.
  const since = Math.max(spanOf(video, 'atSeconds'), spanOf(video, 'decodeSeconds'))
  const size =
    picture.width && picture.height ? `${picture.width}×${picture.height}` : 'unknown size'
  return {
    ...planned,
    arrivedWords: `${size}, ${picture.codec ?? 'unknown codec'}${picture.profile ? ` ${picture.profile}` : ''}${picture.level ? ` ${picture.level}` : ''}`,
    arrivedFramesPerSecond: since > 0 ? Math.round(((video.length - 1) / since) * 10) / 10 : null,
    arrivedKbps: kbps(
      frames.reduce((sum, { bytes }) => sum + bytes, 0),
      report.seconds - report.sinceLastSeconds,
    ),
    busiestSecondKbps: Math.round(report.busiestSecondKbps),
    longestKeyframeSpacingSeconds: picture.longestKeyframeSpacingSeconds,
    wireBytes,
    computedWireBytes:
      wireBytes === null
        ? null
        : computedBytes(frames, output, {
            seconds: report.seconds,
            lossPercent: packets?.datagrams ? (100 * packets.lostDatagrams) / packets.datagrams : 0,
          }),
    longestGapSeconds: Math.round(report.longestGapSeconds * 100) / 100,
    longestWaitSeconds: longestWaitSeconds(frames),
    droppedSeconds: missingSeconds(frames, rendition.framesPerSecond),
    perSecondKbps: perSecondKbps(frames),
    picture: judgedPicture(show, output, likeness),
    findings: findingsOf(
      { ...report, sinceLastSeconds: 0 },
      {
        destination,
        rendition,
        canvasPair: show.canvasPair,
        usableKbps: usableUploadOf(show).usableKbps,
      },
    ).slice(0, 40),
  }
}

/** Below this of real time a computer does not keep up: what a second of measuring may miss is left out. */
export const keptUpSpeed = 0.98

/** What a trial says, as a sentence with how grave it is. */
export function trialVerdict(
  result: Pick<TrialResult, 'processes' | 'sends' | 'line' | 'ownHost'>,
): {
  state: 'fits' | 'attention' | 'fails'
  sentence: string
} {
  const failed = result.processes.find(({ problem }) => problem !== '')
  if (failed) return { state: 'fails', sentence: `The ${failed.canvas} canvas was not sent` }
  const slow = result.processes.find(({ speed }) => speed === null || speed < keptUpSpeed)
  if (slow)
    return {
      state: 'fails',
      sentence: `This computer makes ${shareInWords(slow.speed ?? 0)} of the ${slow.canvas} canvas in time`,
    }
  const nothing = result.sends.find(({ arrivedWords }) => arrivedWords === null)
  if (nothing)
    return {
      state: 'fails',
      sentence: result.ownHost
        ? `Nothing for ${nothing.name} left for your own host`
        : `Nothing arrived at ${nothing.name}`,
    }
  const refused = result.sends.find(({ findings }) =>
    findings.some(({ kind }) => kind === 'breach'),
  )
  if (refused) return { state: 'fails', sentence: `${refused.name} is sent what its rules refuse` }
  const differing = result.sends.find(({ findings }) => findings.length > 0)
  if (differing)
    return { state: 'attention', sentence: `${differing.name} is not sent quite what was planned` }
  if (result.ownHost)
    return { state: 'fits', sentence: 'Everything leaves for your own host as planned' }
  return {
    state: 'fits',
    sentence: result.line
      ? 'Everything arrives as planned, on that line'
      : 'Everything arrives as planned',
  }
}

/** By how much the bytes on the wire missed what they were computed to be, in words; null where they were not counted. */
export function wireInWords({
  wireBytes,
  computedWireBytes,
  arrivedKbps,
}: Pick<TrialSend, 'wireBytes' | 'computedWireBytes' | 'arrivedKbps'>): string | null {
  if (wireBytes === null || !computedWireBytes || arrivedKbps === null) return null
  const percent = ((wireBytes - computedWireBytes) / computedWireBytes) * 100
  const ratio = wireBytes / computedWireBytes
  return `${kbpsInWords(Math.round(arrivedKbps * ratio))}, ${Math.abs(percent).toFixed(1)} % ${percent >= 0 ? 'above' : 'below'} the sum`
}
