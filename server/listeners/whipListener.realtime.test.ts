import { execFileSync, spawn } from 'node:child_process'
import { createSocket } from 'node:dgram'
import { reportOf } from '@green-mantle/core/arrival'
import { type SentFrame, wireBytesOfFrames } from '@green-mantle/core/network'
import Flv from 'node-media-server/src/protocol/flv.js'
import { afterEach, describe, expect, it, vi } from 'vitest'
import { MediaStreamTrack, RTCPeerConnection } from 'werift'
import { isDeep } from '../../tests/tier'
import { within } from '../inRealTime'
import { ownPrograms } from '../programs/programsForTests'
import type { Publisher } from '../sender/publisher'
import { publishOverWhip } from '../sender/whipPublisher'
import { openWhipEndpoint } from './whipEndpoint'
import { listenWhip, type WhipListener, type WhipListenerOptions } from './whipListener'

const host = '127.0.0.1'
const clock = (): number => performance.now() / 1000
const framesPerSecond = 15

const ends: (() => unknown)[] = []
afterEach(async () => {
  for (const end of ends.splice(0).reverse()) await end()
})

/** Each at a port of its own: a request to the one before it may still hold a connection that is closed. */
let firstPort = 24_300

async function listen(
  options: Partial<WhipListenerOptions> = {},
): Promise<{ listener: WhipListener; address: string }> {
  const listener = await listenWhip({
    ...{ host, firstPort: 24_400, clock, watches: () => false },
    ...options,
  })
  ends.push(() => listener.stop())
  const endpoint = await openWhipEndpoint({
    firstPort: (firstPort += 1),
    listenerOf: (key) => (key === 'right' ? listener : 'unknown'),
    listeners: () => [listener],
  })
  ends.push(() => endpoint.close())
  return { listener, address: endpoint.address(host) }
}

/** What an encoder makes in real time, as it comes to the server, handed to a publisher; its pictures are counted. */
function encodeFor(publisher: Publisher): SentFrame[] {
  const encoder = spawn('ffmpeg', [
    ...['-loglevel', 'error', '-nostdin', '-re', '-f', 'lavfi', '-i'],
    ...[`testsrc2=size=320x180:rate=${framesPerSecond}`, '-re', '-f', 'lavfi', '-i'],
    ...['sine=sample_rate=48000', '-c:v', 'libx264', '-preset', 'ultrafast', '-pix_fmt', 'yuv420p'],
    ...['-g', '15', '-b:v', '400k', '-c:a', 'aac', '-ac', '2', '-f', 'flv', 'pipe:1'],
  ])
  const frames: SentFrame[] = []
  const reader = new Flv()
  reader.onPacketCallback = (packet) => {
    publisher.take(packet)
    const [videoTag, keyframe, frame] = [9, 3, 4]
    // FLV's own head of a picture has five bytes.
    if (packet.codec_type === videoTag && [keyframe, frame].includes(packet.flags))
      frames.push({ kind: 'video', bytes: packet.size - 5, hasTwoTimeStamps: false, isAac: false })
  }
  encoder.stdout.on('data', (bytes: Buffer) => reader.parserData(bytes))
  ends.push(() => encoder.kill('SIGKILL'))
  return frames
}

const publish = (address: string, { key = 'right', channels = 2 } = {}): Promise<Publisher> =>
  publishOverWhip(
    { address, key },
    { codec: 'opus', bitrateKbps: 96, channels },
    { kbps: 500, signal: new AbortController().signal },
  )
/** A send that is coming in. */
async function arriving(): Promise<{ listener: WhipListener; publisher: Publisher }> {
  const { listener, address } = await listen()
  const publisher = await publish(address)
  encodeFor(publisher)
  await vi.waitFor(() => expect(listener.arrival().frames.length).toBeGreaterThan(5), within)
  return { listener, publisher }
}
const refusalOf = (address: string, key: string): Promise<string> =>
  publish(address, { key }).then(
    () => 'taken',
    (error: unknown) => (error as Error).message,
  )

/** An offer of a picture and a sound, of somebody who may never come. */
async function anOffer(): Promise<string> {
  const peer = new RTCPeerConnection({ iceServers: [] })
  ends.push(() => peer.close())
  for (const kind of ['video', 'audio'] as const)
    peer.addTransceiver(new MediaStreamTrack({ kind }), { direction: 'sendonly' })
  await peer.setLocalDescription(await peer.createOffer())
  return peer.localDescription!.sdp.replaceAll(/VP8/g, 'H264')
}
const post = (address: string, body: string, headers: Record<string, string> = {}) =>
  fetch(address, {
    method: 'POST',
    body,
    headers: { 'content-type': 'application/sdp', authorization: 'Bearer right', ...headers },
  })

describe('a listener over WHIP', () => {
  it('hears what is sent as it was made, tells at once that it hangs up, and takes the next', async () => {
    const told: string[] = []
    const { listener, address } = await listen({
      began: () => told.push('began'),
      ended: () => told.push('ended'),
    })
    const first = await publish(address)
    encodeFor(first)
    await vi.waitFor(() => expect(listener.arrival().videoFrames).toBeGreaterThan(75), within)
    await vi.waitFor(() => expect(listener.arrival().picture?.profile).not.toBeNull(), within)
    const report = reportOf(listener.arrival(), clock())!
    expect(report.picture).toMatchObject({
      ...{ codec: 'h264', profile: 'Constrained Baseline', width: 320, height: 180 },
      ...{ bFrames: 0, missingFrames: 0, hasVariableRate: false },
      longestKeyframeSpacingSeconds: expect.closeTo(1, 2),
    })
    expect(report.picture!.framesPerSecond).toBeCloseTo(framesPerSecond, 1)
    expect(report.sound).toMatchObject({ codec: 'opus', sampleRateHz: 48_000, channels: 2 })
    // Laid together by what the sender says of its clock; a frame is known to be whole when the next begins.
    // On a busy machine the sound's encoder may have to catch up first.
    await vi.waitFor(() => {
      const { soundLateSeconds } = reportOf(listener.arrival(), clock())!
      expect(Math.abs(soundLateSeconds!)).toBeLessThan(0.25)
    }, within)

    // A second one is refused, and the first goes on.
    expect(await refusalOf(address, 'right')).toMatch(/another program sends there/)
    expect(listener.isArriving()).toBe(true)
    const hungUpAt = clock()
    listener.hangUp()
    expect(await first.ended).toBe('the connection broke off')
    // Untold it would find out after half a minute (RFC 7675).
    expect(clock() - hungUpAt).toBeLessThan(20)
    await vi.waitFor(() => expect(told).toEqual(['began', 'ended']), within)
    listener.forget()
    encodeFor(await publish(address, { channels: 1 }))
    await vi.waitFor(() => expect(listener.arrival().frames.length).toBeGreaterThan(20), within)
    expect(listener.arrival().sound?.channels).toBe(1)
  })

  it('is let go of by whoever sends, and leaves no process', async () => {
    const { listener, publisher } = await arriving()
    publisher.close()
    await vi.waitFor(() => expect(ownPrograms().join()).not.toContain('session.sdp'), within)
    await vi.waitFor(() => expect(listener.isArriving()).toBe(false), within)
  })

  it.skipIf(!isDeep)('lets go of one that went without a word, and leaves no process', async () => {
    const { publisher } = await arriving()
    // Its connection stands, as that of a program which was stopped does, and nothing comes any more.
    ends.pop()?.()
    await vi.waitFor(() => expect(ownPrograms().join()).not.toContain('session.sdp'), within)
    expect(await publisher.ended).toBe('the connection broke off')
  })

  it.skipIf(!isDeep)(
    'counts what crosses as the sum has it, and goes on where a twentieth is lost',
    async () => {
      let crossedBytes = 0
      let count = 0
      let loses = false
      const { listener, address } = await listen({
        pass(bytes) {
          crossedBytes += bytes
          return Promise.resolve(!loses || (count += 1) % 20 !== 0)
        },
      })
      const given = encodeFor(await publish(address))
      // What is given before the session stands goes nowhere, and on a busy machine that takes seconds.
      await vi.waitFor(() => expect(listener.arrival().videoFrames).toBeGreaterThan(0), within)
      const [beganAt, before, from] = [clock(), crossedBytes, given.length]
      await vi.waitFor(() => expect(given.length).toBeGreaterThan(from + 120), within)
      const seconds = clock() - beganAt
      const pictures = given.slice(from)
      const sounds = Array.from(
        { length: Math.round((pictures.length / framesPerSecond) * 50) },
        (): SentFrame => ({ kind: 'audio', bytes: 240, hasTwoTimeStamps: false, isAac: false }),
      )
      const computed = wireBytesOfFrames([...pictures, ...sounds], 'whip', seconds)
      // Sound of 96 kb/s in 50 packets a second has 240 bytes each; what is in hand is a few frames.
      expect((crossedBytes - before) / computed).toBeGreaterThan(0.96)
      expect((crossedBytes - before) / computed).toBeLessThan(1.04)

      loses = true
      const had = listener.crossed()
      const frames = listener.arrival().videoFrames
      await vi.waitFor(
        () => expect(listener.arrival().videoFrames).toBeGreaterThan(frames + 60),
        within,
      )
      const now = listener.crossed()
      const share = (now.lostDatagrams - had.lostDatagrams) / (now.datagrams - had.datagrams)
      expect(share).toBeGreaterThan(0.02)
      expect(share).toBeLessThan(0.08)
    },
  )

  it.skipIf(!isDeep)('keeps a stretch of the picture that can be decoded', async () => {
    const { listener, address } = await listen({ keeps: () => framesPerSecond })
    encodeFor(await publish(address))
    await vi.waitFor(() => expect(listener.arrival().videoFrames).toBeGreaterThan(100), within)
    const said = execFileSync(
      'ffprobe',
      [
        ...['-v', 'error', '-count_frames', '-select_streams', 'v', '-of', 'csv=p=0'],
        ...['-show_entries', 'stream=nb_read_frames,width', '-f', 'mpegts', '-'],
      ],
      { input: await listener.stretch(), encoding: 'utf8' },
    )
    expect(said).toMatch(/^320,(?:29|30)\b/)
  })
})

describe('an offer that cannot be taken', () => {
  it('is answered with the reason, whatever is wrong with it', async () => {
    const { listener, address } = await listen()
    expect(await refusalOf(address, 'wrong')).toMatch(/does not take the key/)
    expect(await refusalOf(address, '')).toMatch(/does not take the key/)
    const answers = await Promise.all([
      post(address, 'v=0', { 'content-type': 'text/plain' }),
      post(address, 'x'.repeat(70_000)),
      post(address, ''),
      post(address, 'v=0\r\nm=video 9 UDP/TLS/RTP/SAVPF 96\r\na=rtpmap:96 VP8/90000\r\n'),
      post(address, 'v=0\r\nm=video 9 UDP/TLS/RTP/SAVPF 96\r\na=rtpmap:96 H264/90000\r\n'),
      // Refused before any work is done for it.
      post(
        address,
        `v=0\r\n${'m=video 9 UDP/TLS/RTP/SAVPF 96\r\na=rtpmap:96 H264/90000\r\n'.repeat(500)}`,
      ),
      fetch(address),
      fetch(`${address}/nothing`, { method: 'DELETE' }),
      fetch(`${address}/nothing`, { method: 'PATCH' }),
      fetch(address, { method: 'OPTIONS' }),
    ])
    expect(answers.map(({ status }) => status)).toEqual([
      ...[415, 413, 406, 406, 400, 400, 405, 404, 405, 204],
    ])
    expect(await answers[3]!.text()).toMatch(/offers no H.264/)
    expect(listener.isArriving()).toBe(false)
  })

  it('does no harm, however it is mutated, and the next right one is taken', async () => {
    const { listener, address } = await listen()
    const offer = await anOffer()
    let seed = 7
    const chance = (): number => (seed = (Math.imul(seed, 1_103_515_245) + 12_345) >>> 0) / 2 ** 32
    for (let round = 0; round < 200; round += 1) {
      const lines = offer.split('\r\n')
      const at = Math.floor(chance() * lines.length)
      const line = lines[at]!
      const cut = Math.floor(chance() * line.length)
      if (round % 3 === 0) lines.splice(at, 1 + Math.floor(chance() * 8))
      else
        lines[at] =
          line.slice(0, cut) +
          String.fromCodePoint(32 + Math.floor(chance() * 90)) +
          line.slice(cut + 1)
      const answer = await post(address, lines.join('\r\n'))
      expect([201, 400, 406, 409]).toContain(answer.status)
      const session = answer.headers.get('location')
      await answer.body?.cancel()
      if (session)
        await fetch(new URL(session, address), { method: 'DELETE' }).then((gone) =>
          gone.body?.cancel(),
        )
    }
    await vi.waitFor(async () => encodeFor(await publish(address)), within)
    await vi.waitFor(() => expect(listener.arrival().frames.length).toBeGreaterThan(5), within)
  })

  it.skipIf(!isDeep)('makes room for another after a while where nobody comes of it', async () => {
    const { address } = await listen()
    expect((await post(address, await anOffer())).status).toBe(201)
    expect(await refusalOf(address, 'right')).toMatch(/another program sends there/)
    await vi.waitFor(async () => encodeFor(await publish(address)), within)
  })

  it('lets nobody in who was not answered', async () => {
    const { listener, address } = await listen()
    const publisher = await publish(address)
    const stranger = createSocket('udp4')
    // A binding request of STUN with a name that nobody was given, packets of RTP, and noise.
    const request = Buffer.from(
      `000100102112a442${'00'.repeat(12)}00060008${'61'.repeat(8)}`,
      'hex',
    )
    const packet = Buffer.from([0x80, 96, 0, 1, 0, 0, 0, 1, 0, 0, 0, 1, 0x65, 1, 2, 3])
    for (let round = 0; round < 2000; round += 1) {
      const bytes = Buffer.from(round % 2 === 0 ? request : packet)
      bytes[round % bytes.length] = round % 256
      stranger.send(bytes, listener.port, host)
      if (round % 100 === 0) await new Promise((resolve) => setTimeout(resolve, 5))
    }
    const before = listener.crossed().datagrams
    await new Promise((resolve) => setTimeout(resolve, 200))
    expect(listener.crossed().datagrams).toBe(before)
    stranger.close()
    encodeFor(publisher)
    await vi.waitFor(() => expect(listener.arrival().frames.length).toBeGreaterThan(5), within)
  })
})
