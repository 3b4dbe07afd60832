// eslint-disable-next-line @typescript-eslint/triple-slash-reference -- whoever compiles this file needs these types
/// <reference path="./papaparse.d.ts" />
import { writeCsv } from './csv'
import { breachesOf, sendsOf, takenRecordings } from '../fit'
import {
  encodedPictureOf,
  bitsPerPixel,
  type Judged,
  judgedOn,
  lowestLevel,
  pictureScore,
  scoreWord,
} from '../media'
import { type Destination, type Rendition, type Show, streamNames } from '../show'
import { codecNames, protocolNames, sampleRateInWords } from '../words'

export const settingsSheetColumns = [
  'Destination',
  'Canvas',
  'Connection',
  'Protocol',
  'Server address',
  'Stream name',
  'Width (px)',
  'Height (px)',
  'Frame rate (fps)',
  'Codec',
  'Profile',
  'Level',
  'Rate control',
  'Video bitrate (kb/s)',
  'Keyframe interval (s)',
  'B-frames',
  'Effort',
  'Device',
  'Look-ahead (frames)',
  'Downscaling',
  'Audio codec',
  'Audio bitrate (kb/s)',
  'Audio sample rate',
  'Audio channels',
  'When the line falls short',
  'Reconnect after (s)',
  'Reconnect tries',
  'On the wire (kb/s)',
  'Bits per pixel',
  'Picture score',
  'Viewers see',
  'Rules not kept',
] as const

const profileNames = { baseline: 'Baseline', main: 'Main', high: 'High' } as const

/** What is said of a rendition wherever it goes; the columns from the width to the audio channels. */
function renditionCells(show: Show, rendition: Rendition): (string | number)[] {
  const { encoder } = rendition
  return [
    rendition.width,
    rendition.height,
    rendition.framesPerSecond,
    codecNames[rendition.codec],
    rendition.codec === 'h264' ? profileNames[encoder.profile] : 'Main',
    lowestLevel(rendition) ?? 'none',
    encoder.rateControl === 'constant' ? 'CBR' : 'VBR',
    rendition.videoBitrateKbps,
    rendition.keyframeIntervalSeconds,
    rendition.bFrames,
    rendition.effort,
    show.computer.devices.find(({ id }) => id === encoder.deviceId)?.name ?? '',
    encoder.lookAheadFrames,
    encoder.downscaling,
    rendition.audioCodec === 'opus' ? 'Opus' : 'AAC-LC',
    rendition.audioBitrateKbps,
    sampleRateInWords(rendition.audioSampleRateHz),
    rendition.audioChannels === 1 ? 'mono' : 'stereo',
  ]
}

function behindCell({ sending }: Destination): string {
  const { whenBehind, mostWaitSeconds, lowerAfterSeconds, lowerToPercent, leastPercent } = sending
  if (whenBehind === 'hold') return 'holds'
  return whenBehind === 'drop'
    ? `drops after ${mostWaitSeconds} s`
    : `lowers to ${lowerToPercent} % after ${lowerAfterSeconds} s, never below ${leastPercent} %; drops after ${mostWaitSeconds} s`
}

/** The last columns but one: what the bits are worth. */
function scoreCells(show: Show, rendition: Rendition, screen: Judged): [string, number, string] {
  const score = pictureScore(rendition, encodedPictureOf(show), screen)
  return [bitsPerPixel(rendition).toFixed(3), Math.round(score), scoreWord(score)]
}

/**
 * The settings of every send and recording, one row each, the column names first. What a recording
 * has no need of is left empty.
 */
export function settingsSheetRows(show: Show): (string | number)[][] {
  const sends = sendsOf(show).flatMap((send) => {
    const destination = show.destinations.find(({ id }) => id === send.destinationId)
    if (!destination) return []
    const { rendition } = send
    const screens = judgedOn(destination.viewers, destination.renditions.indexOf(rendition))
    const breaches = breachesOf(destination, show.canvasPair).filter(
      ({ renditionId }) => renditionId === rendition.id,
    )
    return [
      [
        send.name,
        send.canvas,
        destination.connection,
        protocolNames[destination.protocol],
        (send.isBackup ? destination.backupAddress : destination.serverAddress) ?? '',
        streamNames(destination)[destination.renditions.indexOf(rendition)] ?? '',
        ...renditionCells(show, rendition),
        behindCell(destination),
        destination.sending.reconnectAfterSeconds,
        destination.sending.reconnectTries,
        Math.round(send.wireRateKbps),
        ...scoreCells(show, rendition, screens),
        breaches.map(({ words }) => words).join(' '),
      ],
    ]
  })
  const recordings = takenRecordings(show.recordings).map(
    ({ name, canvas, mix, viewers, rendition }) => [
      name,
      canvas,
      `recording, ${mix}`,
      ...['', '', ''],
      ...renditionCells(show, rendition),
      ...['', '', '', 0],
      ...scoreCells(show, rendition, viewers[0] ?? 'desk'),
      '',
    ],
  )
  return [[...settingsSheetColumns], ...sends, ...recordings]
}

/** The settings sheet as CSV (RFC 4180); cells that a spreadsheet would run as a formula are defused. */
export function writeSettingsSheet(show: Show): string {
  return writeCsv(settingsSheetRows(show))
}
