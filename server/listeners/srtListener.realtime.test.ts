import { type ChildProcess, execFileSync, spawn } from 'node:child_process'
import { createSocket } from 'node:dgram'
import { createServer } from 'node:http'
import type { AddressInfo } from 'node:net'
import { once } from 'node:events'
import { mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { performance } from 'node:perf_hooks'
import fc from 'fast-check'
import { afterEach, describe, expect, it, vi } from 'vitest'
import { isDeep } from '../../tests/tier'
import { within } from '../inRealTime'
import type { DatagramListener } from './datagramListener'
import { srtHandshakeOf, srtRefusalOf } from './srtHandshake'
import { listenSrt, type SrtListenerOptions } from './srtListener'

const host = '127.0.0.1'
const clock = (): number => performance.now() / 1000

const listeners: DatagramListener[] = []
const callers: ChildProcess[] = []
afterEach(async () => {
  for (const caller of callers.splice(0)) caller.kill('SIGKILL')
  await Promise.all(listeners.splice(0).map((listener) => listener.stop()))
})

async function listen(options: Partial<SrtListenerOptions> = {}): Promise<DatagramListener> {
  const listener = await listenSrt({
    ...{ host, firstPort: 24_000, clock, watches: () => false },
    refusal: (streamId) => (streamId === 'right' ? null : 'unknown'),
    ...options,
  })
  listeners.push(listener)
  return listener
}

/** FFmpeg, with the SRT library that it brings, as whoever sends; what it says is gathered. */
function call(
  { port }: DatagramListener,
  streamId: string,
): { said: () => string; ended: Promise<unknown> } {
  const caller = spawn('ffmpeg', [
    ...['-loglevel', 'error', '-nostdin', '-re', '-f', 'lavfi', '-i'],
    ...['testsrc2=size=320x180:rate=15', '-c:v', 'libx264', '-preset', 'ultrafast'],
    ...['-g', '15', '-f', 'mpegts', `srt://${host}:${port}?mode=caller&streamid=${streamId}`],
  ])
  callers.push(caller)
  let said = ''
  caller.stderr.on('data', (words: Buffer) => (said += words.toString()))
  return { said: () => said, ended: once(caller, 'exit') }
}

/** The first that a caller says. */
function induction(): Buffer {
  const handshake = Buffer.alloc(80)
  handshake.writeUInt32BE(0x80_00_00_00, 0)
  handshake.writeUInt32BE(1, 36)
  return handshake
}

describe('a listener over SRT', () => {
  it('takes the stream ID that it waits for, counts what crosses, and takes the next after a hang-up', async () => {
    const told: string[] = []
    const listener = await listen({
      began: (_, streamId) => told.push(`began ${streamId}`),
      ended: () => told.push('ended'),
    })
    const first = call(listener, 'right')
    await vi.waitFor(() => expect(listener.arrival().frames.length).toBeGreaterThan(30), within)
    expect(listener.isArriving()).toBe(true)
    const { wireBytes, datagrams, lostDatagrams } = listener.crossed()
    const frameBytes = listener.arrival().frames.reduce((sum, { bytes }) => sum + bytes, 0)
    expect(wireBytes).toBeGreaterThan(frameBytes)
    expect(datagrams).toBeGreaterThan(30)
    expect(lostDatagrams).toBe(0)
    // A second one is told that it is refused, and the first goes on.
    const second = call(listener, 'right')
    await second.ended
    expect(second.said()).toMatch(/rejection reason/)
    expect(listener.isArriving()).toBe(true)
    listener.hangUp()
    await first.ended
    await vi.waitFor(() => expect(told).toEqual(['began right', 'ended']), within)
    listener.forget()
    call(listener, 'right')
    await vi.waitFor(() => expect(listener.arrival().frames.length).toBeGreaterThan(5), within)
    expect(told.at(-1)).toBe('began right')
  })

  it('refuses a wrong stream ID and none at all, at once', async () => {
    const refused: string[] = []
    const listener = await listen({
      refusal: (streamId) => {
        refused.push(streamId)
        return 'unknown'
      },
    })
    for (const streamId of ['wrong', '']) {
      const caller = call(listener, streamId)
      await caller.ended
      expect(caller.said()).toMatch(/rejection reason/)
    }
    expect(new Set(refused)).toEqual(new Set(['wrong', '']))
    expect(listener.arrival().frames).toHaveLength(0)
  })

  it('asks for no address that a caller names', async () => {
    let asked = 0
    const elsewhere = createServer((_, response) => {
      asked += 1
      response.writeHead(404).end()
    }).listen(0, host)
    await once(elsewhere, 'listening')
    const { port } = elsewhere.address() as AddressInfo
    const listener = await listen()
    const caller = spawn('ffmpeg', [
      ...['-loglevel', 'error', '-nostdin', '-f', 'data', '-i', 'pipe:0', '-map', '0', '-c'],
      ...['copy', '-flush_packets', '1', '-f', 'data'],
      `srt://${host}:${listener.port}?mode=caller&streamid=right&pkt_size=1316`,
    ])
    callers.push(caller)
    const ended = once(caller, 'exit')
    const line = `#EXTINF:1,\nhttp://${host}:${port}/one.ts\n`
    caller.stdin.write(`#EXTM3U\n#EXT-X-TARGETDURATION:1\n${line}#EXT-X-ENDLIST\n`)
    // A list is read up to what comes after it.
    await new Promise((resolve) => setTimeout(resolve, 3000))
    caller.stdin.end(Buffer.alloc(3000))
    await ended
    // The next one is heard, so that what came before it was read to its end.
    call(listener, 'right')
    await vi.waitFor(() => expect(listener.arrival().frames.length).toBeGreaterThan(5), within)
    expect(asked).toBe(0)
    elsewhere.close()
  })

  it('lets in who has the key, however many others knock', async () => {
    const listener = await listen()
    const forging = Array.from({ length: 40 }, () => createSocket('udp4'))
    const knocking = setInterval(() => {
      for (const socket of forging) socket.send(induction(), listener.port, host)
    }, 50)
    await new Promise((resolve) => setTimeout(resolve, 500))
    call(listener, 'right')
    await vi.waitFor(() => expect(listener.arrival().frames.length).toBeGreaterThan(5), within)
    clearInterval(knocking)
    for (const socket of forging) socket.close()
  })

  it('hears several that begin at the same moment, each by itself', async () => {
    const several = await Promise.all([listen(), listen(), listen()])
    expect(new Set(several.map(({ port }) => port)).size).toBe(3)
    // Knocked at within the same moment, so that all look for a port of their own at once.
    const knocking = createSocket('udp4')
    for (const { port } of several) knocking.send(induction(), port, host)
    for (const listener of several) call(listener, 'right')
    await new Promise((resolve) => setTimeout(resolve, 500))
    knocking.close()
    for (const listener of several)
      await vi.waitFor(() => expect(listener.arrival().frames.length).toBeGreaterThan(15), within)
  })

  it.skipIf(!isDeep)('loses what does not get through, and the send goes on', async () => {
    let count = 0
    const listener = await listen({ pass: () => Promise.resolve((count += 1) % 20 !== 0) })
    call(listener, 'right')
    await vi.waitFor(() => expect(listener.arrival().frames.length).toBeGreaterThan(60), within)
    const { lostDatagrams, datagrams } = listener.crossed()
    expect(lostDatagrams / datagrams).toBeGreaterThan(0.02)
    expect(lostDatagrams / datagrams).toBeLessThan(0.1)
  })

  it('keeps a stretch of the picture from a keyframe on, while it comes and after a hang-up', async () => {
    const listener = await listen({ keeps: () => 15 })
    expect(await listener.stretch()).toHaveLength(0)
    call(listener, 'right')
    await vi.waitFor(() => expect(listener.arrival().videoFrames).toBeGreaterThan(90), within)
    const whole = await listener.stretch()
    const folder = await mkdtemp(join(tmpdir(), 'green-mantle-stretch-'))
    const path = join(folder, 'kept')
    await writeFile(path, whole)
    const said = execFileSync('ffprobe', [
      ...['-v', 'error', '-select_streams', 'v', '-show_entries', 'packet=flags', '-of', 'csv=p=0'],
      path,
    ]).toString()
    await rm(folder, { recursive: true })
    const packets = said.split('\n').filter((line) => line !== '')
    expect(packets).toHaveLength(30)
    expect(packets[0]).toContain('K')
    listener.hangUp()
    await vi.waitFor(() => expect(listener.isArriving()).toBe(false), within)
    expect((await listener.stretch()).equals(whole)).toBe(true)
    listener.forget()
    expect(await listener.stretch()).toHaveLength(0)
  })

  it('takes no harm of what is no handshake, and still listens', async () => {
    const listener = await listen()
    const stranger = createSocket('udp4')
    const handshake = induction()
    let seed = 7
    const chance = (): number => (seed = (Math.imul(seed, 1_103_515_245) + 12_345) >>> 0) / 2 ** 32
    for (let round = 0; round < 2000; round += 1) {
      const mutated = Buffer.from(handshake.subarray(0, 8 + Math.floor(chance() * 72)))
      for (let change = 0; change < 3; change += 1)
        mutated[Math.floor(chance() * mutated.length)] = Math.floor(chance() * 256)
      stranger.send(round % 5 === 0 ? handshake : mutated, listener.port, host)
      if (round % 100 === 0) await new Promise((resolve) => setTimeout(resolve, 5))
    }
    stranger.close()
    call(listener, 'right')
    await vi.waitFor(() => expect(listener.arrival().frames.length).toBeGreaterThan(5), within)
  })
})

describe('a handshake', () => {
  const named = (streamId: string): Buffer => {
    const words = Buffer.alloc(Math.ceil(Buffer.byteLength(streamId) / 4) * 4)
    words.write(streamId)
    const head = Buffer.alloc(68)
    head.writeUInt32BE(0x80_00_00_00, 0)
    head.writeUInt32BE(0xff_ff_ff_ff, 36)
    head.writeUInt32BE(77, 40)
    head.writeUInt16BE(5, 64)
    head.writeUInt16BE(words.length / 4, 66)
    return Buffer.concat([head, words.swap32()])
  }

  it('says its stream ID, of whatever length and script', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme', maxLength: 120 }), (text) => {
        const streamId = text.replaceAll('\0', '')
        expect(srtHandshakeOf(named(streamId))).toMatchObject({ phase: 'conclusion', streamId })
      }),
    )
  })

  it('is none, or one without a stream ID, whatever else comes', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 200 }), (bytes) => {
        expect(() => srtHandshakeOf(Buffer.from(bytes))).not.toThrow()
      }),
    )
    expect(srtHandshakeOf(named('whole').subarray(0, 70))).toMatchObject({
      phase: 'conclusion',
      streamId: '',
    })
  })

  it('is refused to the socket that asked', () => {
    const answer = srtRefusalOf(named('x'))
    expect(answer).toHaveLength(64)
    expect(answer.readUInt32BE(12)).toBe(77)
  })
})
