import type { Arrival, ArrivedFrame, ArrivedPicture, ArrivedSound } from './arrival'

/** What of a send really arrived. Bitrates are of the frames alone, without what carries them. */
export interface ArrivalReport {
  seconds: number
  picture:
    | (ArrivedPicture & {
        framesPerSecond: number | null
        /** Whether the spacing of frames changes by more than its usual rounding. */
        hasVariableRate: boolean
        /** Of the frames that its rate says, how many did not come. */
        missingFrames: number
        bFrames: number
        /** Whether frames after a keyframe are shown before it. */
        hasOpenGroups: boolean
        /** null where fewer than two keyframes came. */
        shortestKeyframeSpacingSeconds: number | null
        longestKeyframeSpacingSeconds: number | null
        /** How long the latest keyframe has been waited for. */
        sinceKeyframeSeconds: number
        bitrateKbps: number
      })
    | null
  sound: (ArrivedSound & { bitrateKbps: number }) | null
  /** Mean, and the busiest second and tenth of a second, of all that came. */
  meanKbps: number
  busiestSecondKbps: number
  busiestTenthKbps: number
  /** Sound later than the picture, at the same moment of arrival; null where one is missing. */
  soundLateSeconds: number | null
  longestGapSeconds: number
  sinceLastSeconds: number
  frozenSeconds: number
  silentSeconds: number
}

const kbps = (bytes: number, seconds: number): number =>
  seconds > 0 ? (bytes * 8) / 1000 / seconds : 0

const bytesOf = (frames: readonly ArrivedFrame[]): number =>
  frames.reduce((sum, { bytes }) => sum + bytes, 0)

/** The largest sum of bytes within any stretch of so many seconds of the stream's own clock. */
export function busiestKbps(frames: readonly ArrivedFrame[], windowSeconds: number): number {
  const sorted = [...frames].sort((a, b) => a.decodeSeconds - b.decodeSeconds)
  let from = 0
  let bytes = 0
  let most = 0
  for (const frame of sorted) {
    bytes += frame.bytes
    while (frame.decodeSeconds - (sorted[from] as ArrivedFrame).decodeSeconds >= windowSeconds) {
      bytes -= (sorted[from] as ArrivedFrame).bytes
      from += 1
    }
    most = Math.max(most, bytes)
  }
  return kbps(most, windowSeconds)
}

/** Length of what the frames cover on the stream's clock: one frame more than from first to last. */
function spanSeconds(frames: readonly ArrivedFrame[]): number {
  const times = frames.map(({ decodeSeconds }) => decodeSeconds)
  const first = times[0]
  const last = times.at(-1)
  if (first === undefined || last === undefined || times.length < 2) return 0
  return ((last - first) * times.length) / (times.length - 1)
}

/** The most frames in a row that are shown before one that was sent earlier. */
export function bFramesIn(video: readonly ArrivedFrame[]): number {
  let shownUntil = -Infinity
  let row = 0
  let most = 0
  for (const { presentSeconds } of video) {
    if (presentSeconds < shownUntil - 1e-6) {
      row += 1
      most = Math.max(most, row)
    } else {
      row = 0
      shownUntil = presentSeconds
    }
  }
  return most
}

/** Whether any frame after a keyframe is shown before it: a group that needs the one before. */
export function hasOpenGroups(video: readonly ArrivedFrame[]): boolean {
  let keyAt: number | null = null
  let isFirst = true
  for (const { isKey, presentSeconds } of video) {
    if (isKey) {
      isFirst = keyAt === null
      keyAt = presentSeconds
    } else if (keyAt !== null && !isFirst && presentSeconds < keyAt - 1e-6) return true
  }
  return false
}

/** Frames are stamped in whole milliseconds over RTMP; more than this apart is no rounding. */
const roundingSeconds = 0.0025

/**
 * The moments at which frames are shown of which it is certain that none is still to come or was let go of:
 * what comes later is decoded later, and nothing is shown before it is decoded; what was kept no longer was
 * shown no later than the longest that any waits between the two.
 */
function certainlyShown(video: readonly ArrivedFrame[]): number[] {
  const [first, last] = [video[0], video.at(-1)]
  if (!first || !last) return []
  const longest = Math.max(
    ...video.map(({ presentSeconds, decodeSeconds }) => presentSeconds - decodeSeconds),
  )
  const [from, until] = [first.decodeSeconds + longest, last.decodeSeconds]
  return video
    .map(({ presentSeconds }) => presentSeconds)
    .filter((time) => time >= from - roundingSeconds && time <= until + roundingSeconds)
    .sort((a, b) => a - b)
}

/**
 * How evenly frames come: how many are missing, told by gaps of a whole number of frames, and whether
 * the other gaps differ by more than rounding.
 */
function spacingOf(video: readonly ArrivedFrame[]): { missing: number; isVariable: boolean } {
  const shown = certainlyShown(video)
  const gaps = shown.slice(1).map((time, index) => time - (shown[index] as number))
  if (gaps.length < 10) return { missing: 0, isVariable: false }
  const usual = [...gaps].sort((a, b) => a - b)[gaps.length >> 1] as number
  let missing = 0
  let odd = 0
  for (const gap of gaps) {
    const frames = Math.max(1, Math.round(gap / usual))
    if (Math.abs(gap - frames * usual) > roundingSeconds * frames) odd += 1
    else missing += frames - 1
  }
  return { missing, isVariable: odd > gaps.length / 20 }
}

const round3 = (value: number): number => Math.round(value * 1000) / 1000

function pictureReport(
  arrival: Arrival,
  video: readonly ArrivedFrame[],
  nowDecodeSeconds: number,
): ArrivalReport['picture'] {
  if (video.length === 0) return null
  const seconds = spanSeconds(video)
  const lastKey = video.findLast(({ isKey }) => isKey)
  const { missing, isVariable } = spacingOf(video)
  const wereTwo = arrival.longestKeyframeSpacingSeconds > 0
  return {
    ...(arrival.picture ?? { codec: null, profile: null, level: null, width: null, height: null }),
    framesPerSecond: seconds > 0 ? round3((video.length + missing) / seconds) : null,
    hasVariableRate: isVariable,
    missingFrames: missing,
    bFrames: bFramesIn(video),
    hasOpenGroups: hasOpenGroups(video),
    shortestKeyframeSpacingSeconds: wereTwo ? arrival.shortestKeyframeSpacingSeconds : null,
    longestKeyframeSpacingSeconds: wereTwo ? arrival.longestKeyframeSpacingSeconds : null,
    sinceKeyframeSeconds: lastKey ? Math.max(0, nowDecodeSeconds - lastKey.decodeSeconds) : 0,
    bitrateKbps: kbps(bytesOf(video), seconds),
  }
}

/** The frames that came latest of each kind, at about the same moment: how far apart on the stream's clock. */
function soundLate(frames: readonly ArrivedFrame[]): number | null {
  const pairs: number[] = []
  let picture: ArrivedFrame | null = null
  for (const frame of frames.slice(-600)) {
    if (frame.kind === 'video') picture = frame
    else if (picture && frame.atSeconds - picture.atSeconds < 0.1)
      pairs.push(picture.decodeSeconds - frame.decodeSeconds)
  }
  if (pairs.length < 10) return null
  return pairs.sort((a, b) => a - b)[pairs.length >> 1] as number
}

/** What arrived, of all that is kept; `nowSeconds` on the listener's clock. null before anything came. */
export function reportOf(arrival: Arrival, nowSeconds: number): ArrivalReport | null {
  const { frames, beganAtSeconds, watched } = arrival
  const last = frames.at(-1)
  if (!last || beganAtSeconds === null) return null
  const video = frames.filter(({ kind }) => kind === 'video')
  const audio = frames.filter(({ kind }) => kind === 'audio')
  const decodeNow = Math.max(video.at(-1)?.decodeSeconds ?? 0, audio.at(-1)?.decodeSeconds ?? 0)
  const since = (seconds: number | null): number =>
    seconds === null ? 0 : Math.max(0, decodeNow - seconds)
  const seconds = Math.max(spanSeconds(video), spanSeconds(audio))
  return {
    seconds: nowSeconds - beganAtSeconds,
    picture: pictureReport(arrival, video, decodeNow),
    sound:
      audio.length === 0
        ? null
        : {
            ...(arrival.sound ?? { codec: null, sampleRateHz: null, channels: null }),
            bitrateKbps: kbps(bytesOf(audio), spanSeconds(audio)),
          },
    meanKbps: kbps(bytesOf(frames), seconds),
    busiestSecondKbps: busiestKbps(frames, 1),
    busiestTenthKbps: busiestKbps(frames, 0.1),
    soundLateSeconds: soundLate(frames),
    longestGapSeconds: arrival.longestGapSeconds,
    sinceLastSeconds: Math.max(0, nowSeconds - last.atSeconds),
    frozenSeconds: since(watched.frozenSinceSeconds),
    silentSeconds: since(watched.silentSinceSeconds),
  }
}
