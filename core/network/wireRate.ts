import { type Protocol, type Rendition, rtmpChunkLimitsBytes } from '../show'
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

/** What of a path the bytes on the wire hang on; null where it was not measured. */
export interface WirePath {
  lossPercent: number | null
  /** The chunks of RTMP; absent for the usual ones. */
  rtmpChunkBytes?: number | undefined
}
const unknownPath: WirePath = { lossPercent: null }

/** One frame as it is handed to the container: its bytes as the encoder made them. */
export interface SentFrame {
  kind: 'video' | 'audio'
  bytes: number
  /** Whether it is shown at another time than it is decoded, as between B-frames. */
  hasTwoTimeStamps: boolean
  isAac: boolean
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

/** What one frame takes as an RTMP message: FLV-style body, message header, a continuation byte a further chunk; and its TLS records. */
function rtmpMessage(
  kind: SentFrame['kind'],
  frameBytes: number,
  { rtmpChunkBytes = rtmpChunkLimitsBytes.default }: WirePath,
): { bytes: number; tlsBytes: number } {
  const bodyBytes =
    frameBytes +
    (kind === 'video'
      ? framing.flvVideoHeaderBytes + framing.nalUnitLengthBytes
      : framing.flvAudioHeaderBytes)
  const chunks = Math.ceil(bodyBytes / rtmpChunkBytes)
  return {
    bytes:
      bodyBytes + framing.rtmpMessageHeaderBytes + (chunks - 1) * framing.rtmpContinuationBytes,
    tlsBytes: chunks * framing.tlsRecordsPerRtmpChunk * framing.tlsRecordOverheadBytes,
  }
}

function rtmpSecond(rendition: SentRendition, encrypted: boolean, path: WirePath): WireSecond {
  const video = videoFrames(rendition)
  const audio = audioFrames(rendition)
  const videoMessage = rtmpMessage('video', video.bytes, path)
  const audioMessage = rtmpMessage('audio', audio.bytes, path)
  const sent = videoMessage.bytes * video.perSecond + audioMessage.bytes * audio.perSecond
  const mediaBytes = mediaBytesOf(rendition)
  return {
    mediaBytes,
    framingBytes: sent - mediaBytes,
    encryptionBytes: encrypted
      ? videoMessage.tlsBytes * video.perSecond + audioMessage.tlsBytes * audio.perSecond
      : 0,
    packetBytes: 0,
  }
}

/** Transport stream packets for one PES packet; the last one is stuffed to its full size. */
function tsPackets(pesBytes: number): number {
  return Math.ceil(pesBytes / (framing.tsPacketBytes - framing.tsHeaderBytes))
}

/** Transport stream packets of one video frame. */
const tsPacketsOfVideo = (frameBytes: number, hasTwoTimeStamps: boolean): number =>
  tsPackets(
    frameBytes +
      framing.accessUnitDelimiterBytes +
      framing.tsClockFieldBytes +
      (hasTwoTimeStamps ? framing.pesHeaderTwoTimeStampsBytes : framing.pesHeaderOneTimeStampBytes),
  )

/** SRT packets of what is written at once: the last one is not filled. */
const srtPackets = (packets: number): number => Math.ceil(packets / framing.srtTsPacketsPerPacket)

const datagramHeaderBytes =
  framing.srtHeaderBytes + framing.udpHeaderBytes + framing.ipv4HeaderBytes

/** The share of packets that SRT sends once more, from the path's loss; a flat allowance where that is not known. */
export function srtResentShare({ lossPercent }: WirePath): number {
  if (lossPercent === null) return framing.srtUnknownResentShare
  const lost = Math.min(lossPercent / 100, 0.5)
  return (framing.srtResentPerLost * lost) / (1 - lost)
}

/** IP bytes as an upload test would have counted them: 1448 of every 1500 are TCP payload. */
function asTcpPayload(ipBytes: number): number {
  return (ipBytes * framing.tcpPayloadPerPacketBytes) / framing.ethernetPayloadBytes
}

const adtsBytes = (isAac: boolean): number => (isAac ? framing.adtsHeaderBytes : 0)

/** How many frames of sound are gathered into one PES packet. */
function audioFramesPerPes({ perSecond, bytes }: Frames, isAac: boolean): number {
  const byBytes = Math.floor(framing.pesAudioBytes / (bytes + adtsBytes(isAac)))
  const byTime = Math.ceil(framing.pesAudioSeconds * perSecond)
  return Math.max(1, Math.min(byBytes, byTime))
}

/** IP bytes of what SRT sends in packets and acknowledgements. */
const srtIpBytes = (
  { tsBytes, datagrams, writes }: { tsBytes: number; datagrams: number; writes: number },
  path: WirePath,
): number =>
  (tsBytes + datagrams * datagramHeaderBytes) * (1 + srtResentShare(path)) +
  writes * datagramHeaderBytes

function srtSecond(rendition: SentRendition, path: WirePath): WireSecond {
  const video = videoFrames(rendition)
  const audio = audioFrames(rendition)
  const isAac = rendition.audioCodec === 'aac'
  const together = audioFramesPerPes(audio, isAac)
  const audioWrites = audio.perSecond / together
  const ofVideo = tsPacketsOfVideo(video.bytes, rendition.bFrames > 0)
  const ofAudio = tsPackets(
    together * (audio.bytes + adtsBytes(isAac)) + framing.pesHeaderOneTimeStampBytes,
  )
  const tsBytes =
    (ofVideo * video.perSecond + ofAudio * audioWrites + framing.tsTablePacketsPerSecond) *
    framing.tsPacketBytes
  const counted = asTcpPayload(
    srtIpBytes(
      {
        tsBytes,
        datagrams: srtPackets(ofVideo) * video.perSecond + srtPackets(ofAudio) * audioWrites,
        writes: Math.min(framing.srtMostAcknowledgementsPerSecond, video.perSecond + audioWrites),
      },
      path,
    ),
  )
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
 * counted as an upload test counts (the packet share can then come out below zero). What SRT sends
 * again comes from the path's loss, and in what chunks RTMP goes from the path's ingest.
 */
export function wireSecond(
  rendition: SentRendition,
  protocol: Protocol,
  path: WirePath = unknownPath,
): WireSecond {
  switch (protocol) {
    case 'rtmp':
      return rtmpSecond(rendition, false, path)
    case 'rtmps':
      return rtmpSecond(rendition, true, path)
    case 'srt':
      return srtSecond(rendition, path)
    case 'whip':
      return whipSecond(rendition)
  }
}

/** What a send takes of the upload, in kb/s: the figure that the budget sums. */
export function wireRateKbps(
  rendition: SentRendition,
  protocol: Protocol,
  path: WirePath = unknownPath,
): number {
  const second = wireSecond(rendition, protocol, path)
  const bytes =
    second.mediaBytes + second.framingBytes + second.encryptionBytes + second.packetBytes
  return (bytes * 8) / 1000
}

/** IP bytes of frames over WHIP; a large one is cut up, and what is lost is sent again. */
function whipBytesOfFrames(
  frames: readonly SentFrame[],
  seconds: number,
  { lossPercent }: WirePath,
): number {
  const packetOverhead = framing.rtpHeaderBytes + framing.srtpTagBytes + datagramHeaderBytes
  const bytes = frames.reduce((sum, frame) => {
    const packets = Math.ceil(frame.bytes / framing.rtpPayloadBytes)
    const cut = packets > 1 ? packets * framing.rtpFragmentHeaderBytes : 0
    return sum + frame.bytes + cut + packets * packetOverhead
  }, 0)
  return bytes * (1 + (lossPercent ?? 0) / 100) + seconds * framing.rtcpMeasuredBytesPerSecond
}

/**
 * Bytes that frames of known sizes take on their way, over RTMP and RTMPS as handed to TCP, over SRT
 * and WHIP as IP packets: what a measurement of the connection counts. Frames in the order in which
 * they are sent, over so many seconds.
 */
export function wireBytesOfFrames(
  frames: readonly SentFrame[],
  protocol: Protocol,
  seconds: number,
  path: WirePath = unknownPath,
): number {
  if (protocol === 'whip') return whipBytesOfFrames(frames, seconds, path)
  if (protocol !== 'srt')
    return frames.reduce((sum, { kind, bytes }) => {
      const message = rtmpMessage(kind, bytes, path)
      return sum + message.bytes + (protocol === 'rtmps' ? message.tlsBytes : 0)
    }, 0)
  const audio = frames.filter(({ kind }) => kind === 'audio')
  const sum = { tsBytes: 0, datagrams: 0, writes: 0 }
  const write = (packets: number): void => {
    sum.tsBytes += packets * framing.tsPacketBytes
    sum.datagrams += srtPackets(packets)
    sum.writes += 1
  }
  for (const { kind, bytes, hasTwoTimeStamps } of frames)
    if (kind === 'video') write(tsPacketsOfVideo(bytes, hasTwoTimeStamps))
  let gathered = 0
  let count = 0
  const maxTogether = Math.ceil((framing.pesAudioSeconds * audio.length) / seconds)
  for (const { bytes, isAac } of audio) {
    const own = bytes + adtsBytes(isAac)
    if (count > 0 && (gathered + own > framing.pesAudioBytes || count >= maxTogether)) {
      write(tsPackets(gathered + framing.pesHeaderOneTimeStampBytes))
      gathered = 0
      count = 0
    }
    gathered += own
    count += 1
  }
  if (count > 0) write(tsPackets(gathered + framing.pesHeaderOneTimeStampBytes))
  sum.tsBytes += seconds * framing.tsTablePacketsPerSecond * framing.tsPacketBytes
  sum.writes = Math.min(sum.writes, seconds * framing.srtMostAcknowledgementsPerSecond)
  return srtIpBytes(sum, path)
}
