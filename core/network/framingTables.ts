/**
 * Bytes that each layer adds, with the publication they are from.
 * Written down from memory of the publications.
 */
export const framing = {
  /** RFC 791. */
  ipv4HeaderBytes: 20,
  /** RFC 768. */
  udpHeaderBytes: 8,
  /** IEEE 802.3. */
  ethernetPayloadBytes: 1500,
  /** 1500 less IPv4 (RFC 791) and TCP with the timestamps option (RFC 9293, RFC 7323: 20 + 12). */
  tcpPayloadPerPacketBytes: 1448,
  /** RFC 8446: header 5, content type 1, authentication tag 16. */
  tlsRecordOverheadBytes: 22,
  /** Measured on FFmpeg 5.1: each chunk is written in two pieces, its header and its payload, each a record of its own. */
  tlsRecordsPerRtmpChunk: 2,
  /** RTMP 1.0: a message header that names its stream (fmt 0 only opens the stream, so it is not counted per second). */
  rtmpMessageHeaderBytes: 8,
  /** RTMP 1.0: fmt 3, on each further chunk of a message. */
  rtmpContinuationBytes: 1,
  /** FLV/RTMP specification: frame type and codec, packet type, composition time. */
  flvVideoHeaderBytes: 5,
  /** FLV/RTMP specification: format, AAC packet type. */
  flvAudioHeaderBytes: 2,
  /** ISO/IEC 14496-15: the length before each NAL unit; one unit a frame is assumed. */
  nalUnitLengthBytes: 4,
  /** ISO/IEC 13818-1. */
  tsPacketBytes: 188,
  tsHeaderBytes: 4,
  /** ISO/IEC 13818-1: with one time stamp, and with two as B-frames need. */
  pesHeaderOneTimeStampBytes: 14,
  pesHeaderTwoTimeStampsBytes: 19,
  /** ISO/IEC 13818-1: adaptation field that carries the clock; counted on every video frame. */
  tsClockFieldBytes: 8,
  /** ISO/IEC 13818-1: PAT and PMT, one packet each per 100 ms, and a description of the service every 500 ms. */
  tsTablePacketsPerSecond: 22,
  /** ISO/IEC 14496-3: the ADTS header that AAC gets in a transport stream. */
  adtsHeaderBytes: 7,
  /** ISO/IEC 13818-1 with ITU-T H.264: the access unit delimiter that a transport stream wants before each frame. */
  accessUnitDelimiterBytes: 6,
  /** Measured on FFmpeg 5.1: sound is gathered into packets of so many bytes, for at most so long. */
  pesAudioBytes: 2930,
  pesAudioSeconds: 0.35,
  /** SRT Internet-Draft. */
  srtHeaderBytes: 16,
  srtTsPacketsPerPacket: 7,
  /** SRT Internet-Draft: acknowledgements are themselves acknowledged, at most every 10 ms. */
  srtMostAcknowledgementsPerSecond: 100,
  /** Measured on SRT 1.5: packets sent again for each one lost, since reports of loss are repeated. */
  srtResentPerLost: 1.17,
  /** Where the path's loss is not known; a working value of ours, enough for about 4 % of loss. */
  srtUnknownResentShare: 0.05,
  /** RFC 3550, RFC 3711. */
  rtpHeaderBytes: 12,
  srtpTagBytes: 10,
  /** Common practice, no published source. */
  rtpPayloadBytes: 1200,
  /** RFC 6184, 5.8: what each piece of a frame that is cut up gets. */
  rtpFragmentHeaderBytes: 2,
  /** Reports of a sender and checks that the other side is still there, measured on our own sender of two streams. */
  rtcpMeasuredBytesPerSecond: 320,
  /** RFC 3550: at most this share of the session. */
  rtcpShare: 0.05,
  /** ISO/IEC 14496-3: samples in an AAC-LC frame. */
  aacFrameSamples: 1024,
  /** RFC 7587: the usual Opus frame, 20 ms. */
  opusFramesPerSecond: 50,
} as const
