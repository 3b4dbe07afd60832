import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { protocols } from '../show'
import { framing } from './framingTables'
import {
  type SentFrame,
  type SentRendition,
  srtResentShare,
  wireBytesOfFrames,
  wireRateKbps,
  wireSecond,
} from './wireRate'

const send: SentRendition = {
  framesPerSecond: 60,
  videoBitrateKbps: 6000,
  bFrames: 2,
  audioCodec: 'aac',
  audioBitrateKbps: 160,
  audioSampleRateHz: 48_000,
}

/*
 * One second of 1080p60 at 6000 + 160 kb/s, worked by hand, byte by byte. Header sizes are from the
 * publications named in `framingTables.ts`, written down from memory of them.
 *
 *   video frame  6,000,000 / 8 / 60        = 12,500 bytes, 60 a second
 *   audio frame    160,000 / 8 / 46.875    = 426.6667 bytes, 48,000 / 1024 = 46.875 a second
 */
describe('a second worked by hand', () => {
  it('over RTMP', () => {
    // Body 5 + 4 + 12,500 = 12,509: four chunks of 4096, so 8 + 3 × 1 of headers.
    const videoMessage = 12_509 + 8 + 3
    expect(videoMessage * 60).toBe(751_200)
    // Body 2 + 426.6667, one chunk, 8 of header.
    const audioMessages = (2 + 8) * 46.875 + 20_000
    expect(audioMessages).toBe(20_468.75)
    expect(wireRateKbps(send, 'rtmp')).toBeCloseTo(((751_200 + 20_468.75) * 8) / 1000, 6)
  })

  it('over RTMPS', () => {
    // Each chunk is written as header and payload, a TLS record of 5 + 1 + 16 bytes more for each:
    // four chunks a video frame, one an audio frame.
    const encryption = 22 * 2 * (4 * 60 + 46.875)
    expect(wireSecond(send, 'rtmps').encryptionBytes).toBe(12_622.5)
    expect(wireRateKbps(send, 'rtmps')).toBeCloseTo(
      ((751_200 + 20_468.75 + encryption) * 8) / 1000,
      6,
    )
  })

  it('over RTMPS, to an ingest that stays at chunks of 128 bytes', () => {
    const path = { lossPercent: null, rtmpChunkBytes: 128 }
    // 12,509 / 128 = 97.7, so 98 chunks: 97 bytes more of headers; 428.6667 / 128 = 3.3, so four.
    const encryption = 22 * 2 * (98 * 60 + 4 * 46.875)
    const messages = (12_509 + 8 + 97) * 60 + (2 + 8 + 3) * 46.875 + 20_000
    expect(wireRateKbps(send, 'rtmps', path)).toBeCloseTo(((messages + encryption) * 8) / 1000, 6)
    // A third more, where the usual chunks cost 2 %.
    expect(wireRateKbps(send, 'rtmps', path) / wireRateKbps(send, 'rtmps')).toBeCloseTo(1.33, 2)
  })

  it('over SRT', () => {
    // 12,500 + 6 (delimiter) + 19 (PES, two time stamps) + 8 (clock) over 184 a packet: 68.1, so 69 packets,
    // in ten packets of SRT, the last one not filled.
    const videoPackets = 69 * 60
    // 426.6667 + 7 (ADTS): six fit 2930 bytes, so 7.8125 are written a second, each
    // 6 × 433.6667 + 14 = 2616 bytes in 15 packets, in three of SRT.
    const audioPackets = 15 * 7.8125
    const tsBytes = (videoPackets + audioPackets + 22) * 188
    const datagrams = 10 * 60 + 3 * 7.8125
    // 16 + 8 + 20 of headers each; 5 % for what is sent again on a path that is not known; and the
    // acknowledgement of an acknowledgement for each of 67.8 writes.
    const ipBytes = (tsBytes + datagrams * 44) * 1.05 + 67.8125 * 44
    expect(wireRateKbps(send, 'srt')).toBeCloseTo((ipBytes * (1448 / 1500) * 8) / 1000, 6)
  })

  // Measured by us on SRT 1.5 at 40 ms round trip: 0, 1.2 and 3.5 % were sent again at 0, 1 and 3 % loss.
  it.each([
    [0, 0],
    [1, 0.012],
    [3, 0.035],
  ])('sends again over SRT what %i %% of loss took', (lossPercent, share) => {
    expect(Math.abs(srtResentShare({ lossPercent }) - share)).toBeLessThan(0.002)
    const clean = wireRateKbps(send, 'srt', { lossPercent: 0 })
    const lossy = wireRateKbps(send, 'srt', { lossPercent })
    expect(lossy / clean).toBeCloseTo(1 + share, 2)
  })

  it('over WHIP', () => {
    // 12,500 / 1200 = 10.4, so 11 packets a frame; sound 400 bytes in 50 packets a second.
    const packets = 11 * 60 + 50
    const ipBytes = 770_000 + packets * (12 + 10 + 8 + 20)
    const withControl = ipBytes / 0.95
    expect(wireRateKbps({ ...send, audioCodec: 'opus' }, 'whip')).toBeCloseTo(
      (withControl * (1448 / 1500) * 8) / 1000,
      6,
    )
  })
})

describe('the header sizes', () => {
  it('add up as the publications say', () => {
    // IEEE 802.3 payload less IPv4 (RFC 791) and TCP with timestamps (RFC 9293, RFC 7323).
    expect(framing.ethernetPayloadBytes - framing.ipv4HeaderBytes - 32).toBe(
      framing.tcpPayloadPerPacketBytes,
    )
    // Seven transport stream packets to an SRT packet.
    expect(framing.srtTsPacketsPerPacket * framing.tsPacketBytes).toBe(1316)
    // ISO/IEC 14496-3.
    expect(48_000 / framing.aacFrameSamples).toBe(46.875)
    expect(44_100 / framing.aacFrameSamples).toBeCloseTo(43.07, 2)
  })
})

describe('frames of known sizes', () => {
  it('come to what a second of equal frames comes to', () => {
    const seconds = 64
    const made = (kind: SentFrame['kind'], count: number, bytes: number): SentFrame[] =>
      Array.from({ length: count }, () => ({ kind, bytes, hasTwoTimeStamps: true, isAac: true }))
    const frames = [
      ...made('video', 60 * seconds, 12_500),
      ...made('audio', 46.875 * seconds, 160_000 / 8 / 46.875),
    ]
    const known = { lossPercent: 1 }
    for (const protocol of ['rtmp', 'rtmps', 'srt'] as const) {
      const kbps = (wireBytesOfFrames(frames, protocol, seconds, known) * 8) / 1000 / seconds
      // What goes over UDP is budgeted as an upload test counts it.
      const counted = protocol === 'srt' ? (kbps * 1448) / 1500 : kbps
      expect(counted / wireRateKbps(send, protocol, known)).toBeCloseTo(1, 4)
    }
  })
})

describe('against a real file', () => {
  interface Tag {
    type: number
    bytes: number
    time: number
  }

  /** The tags of an FLV file: 9 bytes of file header, then 4 of back pointer and 11 of tag header before each body. */
  function readTags(file: Buffer): Tag[] {
    const tags: Tag[] = []
    for (let at = 13; at + 11 <= file.length;) {
      const bytes = file.readUIntBE(at + 1, 3)
      tags.push({ type: file.readUInt8(at), bytes, time: file.readUIntBE(at + 4, 3) })
      at += 11 + bytes + 4
    }
    return tags
  }

  it('RTMP’s body agrees with an FLV file that FFmpeg muxed, within 1 %', () => {
    const folder = mkdtempSync(join(tmpdir(), 'green-mantle-flv-'))
    try {
      const path = join(folder, 'send.flv')
      execFileSync('ffmpeg', [
        ...['-v', 'error', '-f', 'lavfi', '-i', 'testsrc2=size=640x360:rate=60'],
        ...['-f', 'lavfi', '-i', 'sine=sample_rate=48000', '-t', '6'],
        ...[
          '-c:v',
          'libx264',
          '-preset',
          'ultrafast',
          '-x264-params',
          'nal-hrd=cbr:sliced-threads=0',
        ],
        ...['-b:v', '6000k', '-minrate', '6000k', '-maxrate', '6000k', '-bufsize', '600k'],
        ...['-g', '120', '-pix_fmt', 'yuv420p'],
        ...['-c:a', 'aac', '-b:a', '160k', '-ac', '2', '-f', 'flv', path],
      ])
      const tags = readTags(readFileSync(path))
      // From the second second on, when the rate control has settled.
      const bytesBetween = (type: number, from: number, to: number): number =>
        tags
          .filter((tag) => tag.type === type && tag.time >= from && tag.time < to)
          .reduce((sum, tag) => sum + tag.bytes, 0)
      const seconds = 4
      const videoBody = bytesBetween(9, 1000, 5000) / seconds
      const computedVideo = 60 * (12_500 + framing.flvVideoHeaderBytes + framing.nalUnitLengthBytes)
      expect(Math.abs(videoBody - computedVideo) / computedVideo).toBeLessThan(0.01)
      // A tone spends what it needs rather than the bitrate asked for, so the bytes of each frame's
      // header are compared: body less what the demuxed AAC frames weigh.
      const aac = execFileSync('ffmpeg', [
        ...['-v', 'error', '-i', path, '-vn', '-c:a', 'copy', '-f', 'adts', '-'],
      ])
      const audioTags = tags.filter((tag) => tag.type === 8 && tag.bytes > 10)
      const frames = audioTags.length
      const weighed = aac.length - frames * framing.adtsHeaderBytes
      const body = audioTags.reduce((sum, tag) => sum + tag.bytes, 0)
      expect(Math.abs(body - weighed - frames * framing.flvAudioHeaderBytes)).toBeLessThan(
        body * 0.01,
      )
    } finally {
      rmSync(folder, { recursive: true })
    }
  })
})

describe('common practice, no published source', () => {
  it('3.5 Mb/s sends to one, two, three places need about 3.5, 7, 10.5 Mb/s', () => {
    const one = { ...send, framesPerSecond: 30 as const, videoBitrateKbps: 3340 }
    for (const places of [1, 2, 3]) {
      const total = places * wireRateKbps(one, 'rtmp')
      expect(Math.abs(total - places * 3500)).toBeLessThan(places * 3500 * 0.01)
    }
  })
})

describe('any send', () => {
  const anySend = fc.record({
    framesPerSecond: fc.constantFrom(24 as const, 30 as const, 60 as const),
    videoBitrateKbps: fc.integer({ min: 200, max: 40_000 }),
    bFrames: fc.integer({ min: 0, max: 4 }),
    audioCodec: fc.constantFrom('aac' as const, 'opus' as const),
    audioBitrateKbps: fc.integer({ min: 32, max: 320 }),
    audioSampleRateHz: fc.constantFrom(44_100 as const, 48_000 as const),
  })

  it('costs more than its picture and sound, and never less for more bits', () => {
    fc.assert(
      fc.property(anySend, fc.constantFrom(...protocols), (sent, protocol) => {
        const rate = wireRateKbps(sent, protocol)
        expect(rate).toBeGreaterThan(sent.videoBitrateKbps + sent.audioBitrateKbps)
        const more = { ...sent, videoBitrateKbps: sent.videoBitrateKbps + 50 }
        expect(wireRateKbps(more, protocol)).toBeGreaterThanOrEqual(rate)
      }),
    )
  })

  it('costs more encrypted than plain', () => {
    fc.assert(
      fc.property(anySend, (sent) => {
        expect(wireRateKbps(sent, 'rtmps')).toBeGreaterThan(wireRateKbps(sent, 'rtmp'))
      }),
    )
  })
})
