import { spawn } from 'node:child_process'
import { once } from 'node:events'
import { type AddressInfo, connect, createServer, type Server } from 'node:net'
import { setTimeout as pause } from 'node:timers/promises'
import { type ArrivalReport, reportOf } from '@green-mantle/core/arrival'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { flvArrival } from './flvArrival'
import { takeRtmp } from './rtmpConnection'

const clock = (): number => performance.now() / 1000
let server: Server
let port = 0
const heard: { arrival: ReturnType<typeof flvArrival>; ended: string | null; bytes: number }[] = []

beforeAll(async () => {
  server = createServer((socket) =>
    takeRtmp(socket, (app, key) => {
      if (app !== 'practice' || key !== 'the-key') return 'this key belongs to no send'
      const one = { arrival: flvArrival(clock), ended: null as string | null, bytes: 0 }
      heard.push(one)
      return {
        packet: one.arrival.take,
        ended: (why) => (one.ended = why),
        bytes: (count) => (one.bytes += count),
      }
    }),
  ).listen(0, '127.0.0.1')
  // As the listeners of the application have it.
  server.maxConnections = 320
  await once(server, 'listening')
  port = (server.address() as AddressInfo).port
})
afterAll(() => server.close())

const sendTo = (key: string, args: readonly string[] = []): Promise<string> => {
  const ffmpeg = spawn('ffmpeg', [
    ...['-v', 'error', '-f', 'lavfi', '-i', 'testsrc2=size=320x180:rate=30'],
    ...['-f', 'lavfi', '-i', 'sine=sample_rate=44100', '-t', '5', '-pix_fmt', 'yuv420p'],
    ...['-c:v', 'libx264', '-preset', 'ultrafast', '-bf', '1', '-g', '45', '-profile:v', 'main'],
    ...['-c:a', 'aac', '-ac', '1', '-b:a', '96k', ...args],
    ...['-f', 'flv', `rtmp://127.0.0.1:${port}/practice/${key}`],
  ])
  let said = ''
  ffmpeg.stderr.on('data', (chunk: Buffer) => (said += chunk.toString()))
  return once(ffmpeg, 'exit').then(() => said)
}

describe('a send over RTMP', () => {
  it('is heard as it was made, by a real encoder', async () => {
    await sendTo('the-key')
    const one = heard.at(-1)!
    while (one.ended === null) await pause(10)
    const report = reportOf(one.arrival.arrival, clock()) as ArrivalReport
    expect(report.picture).toMatchObject({
      codec: 'h264',
      profile: 'Main',
      width: 320,
      height: 180,
      bFrames: 1,
      longestKeyframeSpacingSeconds: expect.closeTo(1.5, 2),
    })
    expect(report.picture?.framesPerSecond).toBeCloseTo(30, 1)
    expect(report.sound).toMatchObject({ codec: 'aac', sampleRateHz: 44_100, channels: 1 })
    expect(one.bytes).toBeGreaterThan(one.arrival.arrival.totalBytes)
  })

  it('is heard while hundreds of others say nothing', async () => {
    const silent = Array.from({ length: 320 }, () =>
      connect(port, '127.0.0.1').on('error', () => {}),
    )
    const before = heard.length
    await sendTo('the-key')
    expect(heard.length).toBe(before + 1)
    for (const socket of silent) socket.destroy()
  })

  it('with a wrong key is refused with the reason', async () => {
    const before = heard.length
    expect(await sendTo('another-key')).toContain('this key belongs to no send')
    expect(heard).toHaveLength(before)
  })
})

async function offer(bytes: Buffer): Promise<void> {
  const socket = connect(port, '127.0.0.1')
  socket.on('error', () => {})
  await once(socket, 'connect')
  socket.end(bytes)
  socket.resume()
  await once(socket, 'close')
}

describe('malformed and endless input', () => {
  it('closes the connection, and the next send is heard all the same', async () => {
    const parts: Buffer[] = []
    const front = createServer((socket) => {
      const onward = connect(port, '127.0.0.1')
      socket.on('data', (chunk: Buffer) => parts.push(chunk))
      socket.pipe(onward).pipe(socket)
      for (const each of [socket, onward]) each.on('error', () => {})
    }).listen(0, '127.0.0.1')
    await once(front, 'listening')
    const through = (front.address() as AddressInfo).port
    const recorded = spawn('ffmpeg', [
      ...['-v', 'error', '-f', 'lavfi', '-i', 'testsrc2=size=320x180:rate=30', '-t', '1'],
      ...['-c:v', 'libx264', '-preset', 'ultrafast', '-f', 'flv'],
      `rtmp://127.0.0.1:${through}/practice/the-key`,
    ])
    await once(recorded, 'exit')
    front.close()
    const real = Buffer.concat(parts)
    expect(real.length).toBeGreaterThan(5000)

    // Small changes of a real send, by a generator with a seed, so that a failure comes again.
    let state = 7
    const random = (below: number): number => {
      state = (Math.imul(state, 1_103_515_245) + 12_345) >>> 0
      return state % below
    }
    const before = process.memoryUsage().rss
    const mutated = (): Buffer => {
      const bytes = Buffer.from(real.subarray(0, 1 + random(real.length)))
      for (let change = 0; change < 1 + random(8); change += 1)
        bytes[random(bytes.length)] = random(256)
      // Half of them in what follows the handshake, where the protocol begins.
      if (random(2) === 0 && bytes.length > 3200)
        for (let change = 0; change < 20; change += 1)
          bytes[3073 + random(Math.min(400, bytes.length - 3073))] = random(256)
      return bytes
    }
    for (let round = 0; round < 100; round += 1)
      await Promise.all(Array.from({ length: 20 }, () => offer(mutated())))
    // The changed sends themselves, which are made here, leave some 200 MB to be collected.
    expect(process.memoryUsage().rss - before).toBeLessThan(500_000_000)

    await sendTo('the-key')
    expect(heard.at(-1)!.arrival.arrival.videoFrames).toBe(150)
  })

  it('that never says where it belongs is cut off', async () => {
    const socket = connect(port, '127.0.0.1')
    socket.on('error', () => {})
    await once(socket, 'connect')
    let sent = 0
    const endless = setInterval(() => {
      sent += 100_000
      if (socket.writable) socket.write(Buffer.alloc(100_000, 3))
    }, 5)
    socket.resume()
    await once(socket, 'close')
    clearInterval(endless)
    expect(sent).toBeLessThan(50_000_000)
  })

  it('that announces a message larger than any is refused before memory is taken for it', async () => {
    const handshake = Buffer.alloc(1 + 1536 * 2, 3)
    // A chunk with a full header: 16 MB of picture.
    const chunk = Buffer.from([5, 0, 0, 0, 0xff, 0xff, 0xff, 9, 1, 0, 0, 0, 1])
    const before = process.memoryUsage().rss
    await Promise.all(
      Array.from({ length: 50 }, () => offer(Buffer.concat([handshake, chunk, chunk]))),
    )
    expect(process.memoryUsage().rss - before).toBeLessThan(100_000_000)
  })
})
