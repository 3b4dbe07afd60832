import { deviceUses, sendsOf, takenRecordings } from '../fit'
import { encodedPictureOf, type ScoredPicture, pictureScore, recordingMegabytes } from '../media'
import { tcpCeilingKbps, usableUpload } from '../network'
import {
  type CanvasName,
  type CleanLimits,
  type Destination,
  fedBy,
  type Incident,
  isTaken,
  lineOf,
  type Sending,
  type Show,
} from '../show'
import { type LineModel, lineModelOf } from './lineModel'

/** How a send shares the line: over TCP it gives way, over UDP it does not; SRT sends again. */
export type Transport = 'tcp' | 'srt' | 'udp'

/** One send of a night. */
export interface SimulatedSend {
  key: string
  name: string
  canvas: CanvasName
  destinationId: string
  /** Whoever a relay passes it on to; they share its fate. */
  passedOnTo: string[]
  isBackup: boolean
  transport: Transport
  /** On the wire at the planned bitrate. */
  fullKbps: number
  /** What its path carries at most. */
  ceilingKbps: number
  roundTripMilliseconds: number | null
  framesPerSecond: number
  keyframeIntervalSeconds: number
  bFrames: number
  /** Of the night's devices; -1 where none is known. */
  device: number
  sending: Sending
  /** How long the destination holds the picture back. */
  lagSeconds: number
  /** Whether somebody has to press start again after it was gone. */
  startIsPressed: boolean
  /** The picture's score at this share of its bitrate, 0 to 1. */
  scoreAt(share: number): number
}

export interface SimulatedRecording {
  id: string
  name: string
  framesPerSecond: number
  device: number
  bytesPerSecond: number
}

export interface SimulatedDevice {
  id: string
  name: string
  /** What the plan asks of it, 1 = all of it. */
  load: number
}

/** Everything that a night is computed from, besides chance. */
export interface NightPlan {
  seconds: number
  line: LineModel
  /** The same line by other media, where there are samples of them, for incidents. */
  byMedium: Partial<Record<LineModel['medium'], LineModel>>
  otherTrafficKbps: number
  sends: SimulatedSend[]
  recordings: SimulatedRecording[]
  devices: SimulatedDevice[]
  freeDiskBytes: number | null
  incidents: Incident[]
  clean: CleanLimits
}

export type RehearsedShow = Pick<
  Show,
  | 'destinations'
  | 'recordings'
  | 'lines'
  | 'lineId'
  | 'computer'
  | 'pictureKind'
  | 'ownPicture'
  | 'durationMinutes'
  | 'rehearsal'
>

const scoreSteps = 20

/** Scores at shares of the bitrate, worked out once and looked up in the loop. */
function scoresOf(
  {
    rendition,
    viewers,
  }: { rendition: Destination['renditions'][number]; viewers: Destination['viewers'] },
  picture: ScoredPicture,
): (share: number) => number {
  const table = Array.from({ length: scoreSteps + 1 }, (_, step) => {
    const videoBitrateKbps = Math.max(1, (rendition.videoBitrateKbps * step) / scoreSteps)
    return pictureScore({ ...rendition, videoBitrateKbps }, picture, viewers)
  })
  return (share) => table[Math.round(Math.min(1, Math.max(0, share)) * scoreSteps)] as number
}

const transports = { rtmp: 'tcp', rtmps: 'tcp', srt: 'srt', whip: 'udp' } as const

/** A show as it stands, as a night to be computed. `startsAtHour` is the hour at which it starts, UTC. */
export function nightPlanOf(show: RehearsedShow, startsAtHour: number): NightPlan {
  const line = lineOf(show)
  const devices = deviceUses(show).map(({ device, load }) => ({
    id: device.id,
    name: device.name,
    load,
  }))
  const deviceIndex = (id: string | null): number => devices.findIndex((device) => device.id === id)
  const byId = new Map(show.destinations.map((destination) => [destination.id, destination]))
  const sends = sendsOf(show).flatMap((send): SimulatedSend[] => {
    const destination = byId.get(send.destinationId)
    if (!destination) return []
    const { roundTripMilliseconds, lossPercent } = destination.path
    const transport = transports[destination.protocol]
    const isKnown = roundTripMilliseconds !== null && lossPercent !== null && lossPercent > 0
    return [
      {
        key: send.key,
        name: send.name,
        canvas: send.canvas,
        destinationId: send.destinationId,
        passedOnTo:
          destination.connection === 'relay'
            ? fedBy(show.destinations, destination).map(({ name }) => name)
            : [],
        isBackup: send.isBackup,
        transport,
        fullKbps: send.wireRateKbps,
        ceilingKbps:
          transport === 'tcp' && isKnown
            ? tcpCeilingKbps(roundTripMilliseconds, lossPercent)
            : Infinity,
        roundTripMilliseconds,
        framesPerSecond: send.rendition.framesPerSecond,
        keyframeIntervalSeconds: send.rendition.keyframeIntervalSeconds,
        bFrames: send.rendition.bFrames,
        device:
          destination.connection === 'hand-off' ? -1 : deviceIndex(send.rendition.encoder.deviceId),
        sending: destination.sending,
        lagSeconds: destination.lagSeconds,
        startIsPressed: destination.rules.start === 'pressed on its page',
        scoreAt: scoresOf(
          { rendition: send.rendition, viewers: destination.viewers },
          encodedPictureOf(show),
        ),
      },
    ]
  })
  const seconds = show.durationMinutes * 60
  const recordings = takenRecordings(show.recordings).map(({ id, name, rendition }) => ({
    id,
    name,
    framesPerSecond: rendition.framesPerSecond,
    device: deviceIndex(rendition.encoder.deviceId),
    bytesPerSecond: (recordingMegabytes(rendition, show.durationMinutes) * 1e6) / seconds,
  }))
  const media = (['cable', 'wifi', 'mobile'] as const).filter((medium) =>
    line.samples.some((sample) => sample.medium === medium && sample.uploadKbps > 0),
  )
  return {
    seconds,
    line: lineModelOf(line, startsAtHour),
    byMedium: Object.fromEntries(
      media.map((medium) => [medium, lineModelOf({ ...line, medium }, startsAtHour)]),
    ),
    otherTrafficKbps: usableUpload(line).otherTrafficKbps,
    sends,
    recordings,
    devices,
    freeDiskBytes:
      show.computer.freeDiskGigabytes === null ? null : show.computer.freeDiskGigabytes * 1e9,
    incidents: show.rehearsal.incidents.filter(({ on }) => on),
    clean: show.rehearsal.clean,
  }
}

/** Whether a show has what a night needs; else what is missing, in words. */
export function missingForNight(show: RehearsedShow): string[] {
  const missing: string[] = []
  if (!show.destinations.some(isTaken)) missing.push('a destination that is on')
  if (!lineOf(show).samples.some(({ uploadKbps }) => uploadKbps > 0))
    missing.push('a measurement of the line')
  return missing
}
