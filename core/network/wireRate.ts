import type { Protocol, Rendition } from '../show'
import { framing } from './framingTables'

export type SentRendition = Pick<
  Rendition,
  | 'framesPerSecond'
  | 'videoBitrateKbps'
  | 'bFrames'
  | 'audioCodec'
  | 'audioBitrateKbps'
  | 'audioSampleRateHz'
>

/** One second of a send, taken apart. All in bytes per second, as the budget counts them. */
export interface WireSecond {
  /** What the encoder made: picture and sound. */
  mediaBytes: number
  /** What the container and the protocol add. */
  framingBytes: number
  /** What encryption adds. */
  encryptionBytes: number
  /** What packet headers, retransmission and control traffic add; none over TCP, where it is not counted. */
  packetBytes: number
}

interface Frames {
  perSecond: number
  bytes: number
}

function videoFrames(rendition: SentRendition): Frames {
  const perSecond = rendition.framesPerSecond
  return { perSecond, bytes: (rendition.videoBitrateKbps * 1000) / 8 / perSecond }
}

const audioFramesPerSecond = (rendition: SentRendition): number =>
  rendition.audioCodec === 'aac'
    ? rendition.audioSampleRateHz / framing.aacFrameSamples
    : framing.opusFramesPerSecond

function audioFrames(rendition: SentRendition): Frames {
  const perSecond = audioFramesPerSecond(rendition)
  return { perSecond, bytes: (rendition.audioBitrateKbps * 1000) / 8 / perSecond }
}

function mediaBytesOf(rendition: SentRendition): number {
  return ((rendition.videoBitrateKbps + rendition.audioBitrateKbps) * 1000) / 8
}

/** Bytes of one RTMP message: FLV-style body, message header, and a continuation byte a further chunk. */
function rtmpMessageBytes(bodyBytes: number): number {
  const furtherChunks = Math.ceil(bodyBytes / framing.rtmpChunkBytes) - 1
  return bodyBytes + framing.rtmpMessageHeaderBytes + furtherChunks * framing.rtmpContinuationBytes
}

/** TLS 1.3 records for one message, written to the connection in one piece. */
function tlsBytes(messageBytes: number): number {
  return Math.ceil(messageBytes / framing.tlsLargestRecordBytes) * framing.tlsRecordOverheadBytes
}

function rtmpSecond(rendition: SentRendition, encrypted: boolean): WireSecond {
  const video = videoFrames(rendition)
  const audio = audioFrames(rendition)
  const videoMessage = rtmpMessageBytes(
    framing.flvVideoHeaderBytes + framing.nalUnitLengthBytes + video.bytes,
  )
  const audioMessage = rtmpMessageBytes(framing.flvAudioHeaderBytes + audio.bytes)
  const sent = videoMessage * video.perSecond + audioMessage * audio.perSecond
  const mediaBytes = mediaBytesOf(rendition)
  return {
    mediaBytes,
    framingBytes: sent - mediaBytes,
    encryptionBytes: encrypted
      ? tlsBytes(videoMessage) * video.perSecond + tlsBytes(audioMessage) * audio.perSecond
      : 0,
    packetBytes: 0,
  }
}

/** Transport stream packets for one frame; the last one is stuffed to its full size. */
function tsPackets(frameBytes: number): number {
  return Math.ceil(frameBytes / (framing.tsPacketBytes - framing.tsHeaderBytes))
}

/** IP bytes as an upload test would have counted them: 1448 of every 1500 are TCP payload. */
function asTcpPayload(ipBytes: number): number {
  return (ipBytes * framing.tcpPayloadPerPacketBytes) / framing.ethernetPayloadBytes
}

function srtSecond(rendition: SentRendition): WireSecond {
  const video = videoFrames(rendition)
  const audio = audioFrames(rendition)
  const videoPesHeader =
    rendition.bFrames > 0 ? framing.pesHeaderTwoTimeStampsBytes : framing.pesHeaderOneTimeStampBytes
  const audioHeader = rendition.audioCodec === 'aac' ? framing.adtsHeaderBytes : 0
  const packets =
    tsPackets(video.bytes + videoPesHeader + framing.tsClockFieldBytes) * video.perSecond +
    tsPackets(audio.bytes + audioHeader + framing.pesHeaderOneTimeStampBytes) * audio.perSecond +
    framing.tsTablePacketsPerSecond
  const tsBytes = packets * framing.tsPacketBytes
  const headerBytes =
    (packets / framing.srtTsPacketsPerPacket) *
    (framing.srtHeaderBytes + framing.udpHeaderBytes + framing.ipv4HeaderBytes)
  const counted = asTcpPayload((tsBytes + headerBytes) * (1 + framing.srtRetransmissionShare))
  const mediaBytes = mediaBytesOf(rendition)
  return {
    mediaBytes,
    framingBytes: tsBytes - mediaBytes,
    encryptionBytes: 0,
    packetBytes: counted - tsBytes,
  }
}

function whipSecond(rendition: SentRendition): WireSecond {
  const video = videoFrames(rendition)
  const audio = audioFrames(rendition)
  const packetsPerSecond = [video, audio].reduce(
    (sum, frames) => sum + Math.ceil(frames.bytes / framing.rtpPayloadBytes) * frames.perSecond,
    0,
  )
  const mediaBytes = mediaBytesOf(rendition)
  const framingBytes = packetsPerSecond * framing.rtpHeaderBytes
  const encryptionBytes = packetsPerSecond * framing.srtpTagBytes
  const ipBytes =
    mediaBytes +
    framingBytes +
    encryptionBytes +
    packetsPerSecond * (framing.udpHeaderBytes + framing.ipv4HeaderBytes)
  const counted = asTcpPayload(ipBytes / (1 - framing.rtcpShare))
  return {
    mediaBytes,
    framingBytes,
    encryptionBytes,
    packetBytes: counted - mediaBytes - framingBytes - encryptionBytes,
  }
}

/**
 * One second of a rendition on its way up, frame by frame from the published header sizes
 * (`framingTables.ts`), with frames of equal size as at constant bitrate.
 * Over TCP these are the bytes handed to TCP; over UDP the IP bytes × 1448/1500, so that both are
 * counted as an upload test counts (the packet share can then come out below zero).
 */
export function wireSecond(rendition: SentRendition, protocol: Protocol): WireSecond {
  switch (protocol) {
    case 'rtmp':
      return rtmpSecond(rendition, false)
    case 'rtmps':
      return rtmpSecond(rendition, true)
    case 'srt':
      return srtSecond(rendition)
    case 'whip':
      return whipSecond(rendition)
  }
}

/** What a send takes of the upload, in kb/s: the figure that the budget sums. */
export function wireRateKbps(rendition: SentRendition, protocol: Protocol): number {
  const second = wireSecond(rendition, protocol)
  const bytes =
    second.mediaBytes + second.framingBytes + second.encryptionBytes + second.packetBytes
  return (bytes * 8) / 1000
}
