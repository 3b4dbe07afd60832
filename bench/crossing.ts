import { execFile, spawn, spawnSync } from 'node:child_process'
import { createSocket, type RemoteInfo } from 'node:dgram'
import { once } from 'node:events'
import { readFileSync } from 'node:fs'
import { type AddressInfo, connect, createServer, type Server, type Socket } from 'node:net'
import { join } from 'node:path'
import { setTimeout as pause } from 'node:timers/promises'
import { createServer as createTlsServer } from 'node:tls'
import { promisify } from 'node:util'
import { type SentFrame, wireBytesOfFrames } from '@green-mantle/core/network'
import { rtmpChunkLimitsBytes } from '@green-mantle/core/show'
import { freeListenerPort } from '../server/listeners/ports'
import { takeRtmp } from '../server/listeners/rtmpConnection'

/*
 * Sends real streams with FFmpeg through something that counts every byte, and holds that against what
 * the wire rate computes for the same frames.
 */
const run = promisify(execFile)
const seconds = 10

export interface CrossedRendition {
  size: string
  framesPerSecond: number
  videoKbps: number
  audioKbps: number
  bFrames: number
}
export interface Crossing {
  bytes: number
  computedBytes: number
}

/** A clip that holds the rendition, and its frames as they will be sent. */
export async function makeClip(
  folder: string,
  { size, framesPerSecond, videoKbps, audioKbps, bFrames }: CrossedRendition,
): Promise<{ path: string; frames: SentFrame[] }> {
  const path = join(folder, `${size}-${framesPerSecond}-${videoKbps}-${audioKbps}-${bFrames}.mkv`)
  const rate = `${videoKbps}k`
  await run('ffmpeg', [
    ...['-v', 'error', '-y', '-f', 'lavfi', '-i'],
    `testsrc2=size=${size}:rate=${framesPerSecond}:duration=${seconds},noise=alls=20:allf=t`,
    ...['-f', 'lavfi', '-i', `anoisesrc=r=48000:a=0.3:d=${seconds}`, '-pix_fmt', 'yuv420p'],
    ...['-c:v', 'libx264', '-preset', 'ultrafast', '-bf', `${bFrames}`],
    ...['-g', `${2 * framesPerSecond}`, '-x264-params', 'nal-hrd=cbr:sliced-threads=0'],
    ...['-b:v', rate, '-minrate', rate, '-maxrate', rate, '-bufsize', rate],
    ...['-c:a', 'aac', '-ac', '2', '-b:a', `${audioKbps}k`, path],
  ])
  const { stdout } = await run(
    'ffprobe',
    [
      ...['-v', 'error', '-of', 'json', '-show_entries'],
      ...['packet=codec_type,size,pts_time,dts_time', path],
    ],
    { maxBuffer: 50_000_000 },
  )
  const { packets } = JSON.parse(stdout) as { packets: Record<string, string>[] }
  const frames = packets.map(
    ({ codec_type: type, size: bytes, pts_time: shown, dts_time: decoded }): SentFrame => ({
      kind: type === 'video' ? 'video' : 'audio',
      bytes: Number(bytes),
      hasTwoTimeStamps: shown !== decoded,
      isAac: true,
    }),
  )
  return { path, frames }
}

const send = async (path: string, args: readonly string[]): Promise<void> => {
  const sender = spawn('ffmpeg', ['-v', 'quiet', '-re', '-i', path, '-c', 'copy', ...args])
  await once(sender, 'exit')
}
const portOf = (server: Server): number => (server.address() as AddressInfo).port
async function listening(server: Server): Promise<Server> {
  server.listen(0, '127.0.0.1')
  await once(server, 'listening')
  return server
}

/** Whether RTMPS can be crossed here: its ingest needs a certificate, which is made by openssl. */
export const canCrossEncrypted = (): boolean => spawnSync('openssl', ['version']).status === 0

/** A connection to a port, as soon as somebody listens there; whoever takes one alone cannot be asked before. */
async function connected(port: number): Promise<Socket> {
  for (let tries = 0; tries < 100; tries += 1) {
    const socket = connect(port, '127.0.0.1')
    const isThere = await new Promise((resolve) => {
      socket.once('connect', () => resolve(true))
      socket.on('error', () => resolve(false))
    })
    if (isThere) return socket
    await pause(100)
  }
  throw new Error('Nobody listens there.')
}

/**
 * What takes a connection over TCP: a listener of ours, with chunks of the usual size, or FFmpeg, which
 * stays at 128 bytes.
 */
async function tcpIngest(chunks: 'usual' | 'small'): Promise<{
  take: (socket: Socket) => void
  stop: () => void
}> {
  if (chunks === 'usual') {
    const sink = { packet: () => {}, ended: () => {}, bytes: () => {} }
    return { take: (socket) => takeRtmp(socket, () => sink), stop: () => {} }
  }
  const port = await freeListenerPort(23_000 + Math.round(Math.random() * 900), 'tcp')
  const ingest = spawn('ffmpeg', [
    ...['-v', 'quiet', '-listen', '1', '-i', `rtmp://127.0.0.1:${port}/practice/key`],
    ...['-c', 'copy', '-f', 'null', '-'],
  ])
  return {
    take(socket) {
      socket.on('error', () => {})
      connected(port).then(
        (to) => socket.pipe(to).pipe(socket),
        () => socket.destroy(),
      )
    },
    stop: () => ingest.kill('SIGKILL'),
  }
}

/** Over RTMP or RTMPS to an ingest with the usual chunks, or with small ones. */
export async function crossTcp(
  folder: string,
  rendition: CrossedRendition,
  protocol: 'rtmp' | 'rtmps',
  chunks: 'usual' | 'small' = 'usual',
): Promise<Crossing> {
  const { path, frames } = await makeClip(folder, rendition)
  const { take, stop } = await tcpIngest(chunks)
  const encrypted = (): Server => {
    const [key, cert] = ['key.pem', 'certificate.pem'].map((name) => join(folder, name)) as [
      string,
      string,
    ]
    spawnSync('openssl', [
      ...['req', '-x509', '-newkey', 'rsa:2048', '-nodes', '-days', '2'],
      ...['-subj', '/CN=localhost', '-keyout', key, '-out', cert],
    ])
    return createTlsServer({ key: readFileSync(key), cert: readFileSync(cert) }, take)
  }
  const ingest = await listening(protocol === 'rtmps' ? encrypted() : createServer(take))
  let bytes = 0
  const counter = await listening(
    createServer((from) => {
      const to = connect(portOf(ingest), '127.0.0.1')
      from.on('data', (chunk: Buffer) => (bytes += chunk.length))
      from.pipe(to).pipe(from)
      for (const socket of [from, to]) socket.on('error', () => {})
    }),
  )
  await send(path, ['-f', 'flv', `${protocol}://127.0.0.1:${portOf(counter)}/practice/key`])
  await pause(300)
  counter.close()
  ingest.close()
  stop()
  const { min, default: usual } = rtmpChunkLimitsBytes
  const computedBytes = wireBytesOfFrames(frames, protocol, seconds, {
    lossPercent: null,
    rtmpChunkBytes: chunks === 'small' ? min : usual,
  })
  return { bytes, computedBytes }
}

const halfRoundTripMilliseconds = 20
const latencyMicroseconds = 1_000_000
const ipAndUdpBytes = 28

/** Over SRT, through a path of 40 ms that loses so much of what is sent; at what loss it really had. */
export async function crossSrt(
  folder: string,
  rendition: CrossedRendition,
  lossPercent: number,
): Promise<Crossing> {
  const { path, frames } = await makeClip(folder, rendition)
  const port = await freeListenerPort(21_000 + Math.round(Math.random() * 2000), 'udp')
  const address = (to: number): string => `srt://127.0.0.1:${to}`
  const receiver = spawn('ffmpeg', [
    ...['-v', 'quiet', '-i', `${address(port)}?mode=listener&latency=${latencyMicroseconds}`],
    ...['-c', 'copy', '-f', 'null', '-'],
  ])
  await pause(700)
  const [front, back] = [createSocket('udp4'), createSocket('udp4')]
  let [bytes, sent, lost, state] = [0, 0, 0, 11]
  let sender: RemoteInfo | undefined
  front.on('message', (message, from) => {
    sender = from
    bytes += message.length + ipAndUdpBytes
    // The first bit tells data from control, which is let through.
    if ((message[0]! & 0x80) === 0) {
      sent += 1
      state = (Math.imul(state, 1_103_515_245) + 12_345) >>> 0
      if (state / 2 ** 32 < lossPercent / 100) {
        lost += 1
        return
      }
    }
    setTimeout(() => back.send(message, port, '127.0.0.1'), halfRoundTripMilliseconds)
  })
  back.on('message', (message) =>
    setTimeout(
      () => sender && front.send(message, sender.port, sender.address),
      halfRoundTripMilliseconds,
    ),
  )
  await new Promise<void>((resolve) => front.bind(0, '127.0.0.1', resolve))
  await send(path, [
    ...['-f', 'mpegts'],
    `${address(front.address().port)}?latency=${latencyMicroseconds}`,
  ])
  await pause(1300)
  receiver.kill('SIGKILL')
  front.close()
  back.close()
  const really = sent > 0 ? (100 * lost) / sent : 0
  return {
    bytes,
    computedBytes: wireBytesOfFrames(frames, 'srt', seconds, { lossPercent: really }),
  }
}
