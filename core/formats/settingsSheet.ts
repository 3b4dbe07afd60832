// eslint-disable-next-line @typescript-eslint/triple-slash-reference -- whoever compiles this file needs these types
/// <reference path="./papaparse.d.ts" />
import papaparse from 'papaparse'
import { breachesOf, sendsOf } from '../fit'
import { bitsPerPixel, lowestLevel, pictureScore, scoreWord } from '../media'
import { reconnectPractice } from '../network'
import { type Show, streamNames } from '../show'
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
  'Reconnect after (s)',
  'Reconnect tries',
  'On the wire (kb/s)',
  'Bits per pixel',
  'Picture score',
  'Viewers see',
  'Rules not kept',
] as const

const profileNames = { baseline: 'Baseline', main: 'Main', high: 'High' } as const

/** The settings of every send, one row each in the order of the destinations, the column names first. */
export function settingsSheetRows(show: Show): (string | number)[][] {
  const rows = sendsOf(show).flatMap((send) => {
    const destination = show.destinations.find(({ id }) => id === send.destinationId)
    if (!destination) return []
    const { rendition } = send
    const score = pictureScore(rendition, show.pictureKind, destination.viewers[0] ?? 'desk')
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
        rendition.width,
        rendition.height,
        rendition.framesPerSecond,
        codecNames[rendition.codec],
        rendition.codec === 'h264' ? profileNames[rendition.encoder.profile] : 'Main',
        lowestLevel(rendition) ?? 'none',
        rendition.encoder.rateControl === 'constant' ? 'CBR' : 'VBR',
        rendition.videoBitrateKbps,
        rendition.keyframeIntervalSeconds,
        rendition.bFrames,
        rendition.effort,
        show.computer.devices.find(({ id }) => id === rendition.encoder.deviceId)?.name ?? '',
        rendition.encoder.lookAheadFrames,
        rendition.encoder.downscaling,
        rendition.audioCodec === 'opus' ? 'Opus' : 'AAC-LC',
        rendition.audioBitrateKbps,
        sampleRateInWords(rendition.audioSampleRateHz),
        rendition.audioChannels === 1 ? 'mono' : 'stereo',
        reconnectPractice.afterSeconds,
        reconnectPractice.mostTries,
        Math.round(send.wireRateKbps),
        bitsPerPixel(rendition).toFixed(3),
        Math.round(score),
        scoreWord(score),
        breaches.map(({ words }) => words).join(' '),
      ],
    ]
  })
  return [[...settingsSheetColumns], ...rows]
}

/** The settings sheet as CSV (RFC 4180); cells that a spreadsheet would run as a formula are defused. */
export function writeSettingsSheet(show: Show): string {
  return `${papaparse.unparse(settingsSheetRows(show), { newline: '\r\n', escapeFormulae: true })}\r\n`
}
