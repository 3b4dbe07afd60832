import type { Socket } from 'node:net'
import { HalfOpen } from './halfOpen'
import Rtmp, { type MediaPacket } from 'node-media-server/src/protocol/rtmp.js'
import './quietProtocol'

/** Who takes what one publisher sends. */
export interface PublishedSink {
  packet(packet: MediaPacket): void
  /** Everything has come, or the connection broke off. */
  ended(why: string): void
  /** Bytes as they came in, those of the protocol included. */
  bytes(count: number): void
}

/** Decides about a publisher by the application and the stream name (the key) it asks for; a text refuses, and says why. */
export type Admit = (app: string, key: string, end: (why: string) => void) => PublishedSink | string

const limits = {
  /** A keyframe of the largest bitrate there is stays far below. */
  messageBytes: 8_000_000,
  chunkStreams: 16,
  /** What all its chunk streams may hold together. */
  heldBytes: 16_000_000,
  leastChunkBytes: 1,
  mostChunkBytes: 16_777_215,
  /** From connecting to publishing. */
  publishSeconds: 10,
  /** Before it publishes, nobody has anything to say that is longer. */
  bytesBeforePublishing: 65_536,
  idleSeconds: 20,
  keyCharacters: 200,
} as const

/** FFmpeg and others send chunks of the size that they are told; the trade's usual one. */
const chunkBytes = 4096
const acknowledgeEveryBytes = 1_000_000

class RefusedInput extends Error {}

/** The protocol as the library speaks it, with limits before it takes memory and a say in who may publish. */
class GuardedRtmp extends Rtmp {
  decide: (app: string, key: string) => string | null = () => null
  isPublishing = false
  override outChunkSize = chunkBytes

  override packetAlloc(): void {
    const { length } = this.parserPacket.header
    if (length > (this.isPublishing ? limits.messageBytes : limits.bytesBeforePublishing))
      throw new RefusedInput('a message of that length')
    if (this.inPackets.size > limits.chunkStreams)
      throw new RefusedInput('so many chunk streams at once')
    const held = [...this.inPackets.values()].reduce((sum, { capacity }) => sum + capacity, 0)
    if (this.parserPacket.capacity < length && held + length > limits.heldBytes)
      throw new RefusedInput('so many long messages at once')
    super.packetAlloc()
  }

  override onPublish(message: { streamName: string }): void {
    const key = typeof message.streamName === 'string' ? message.streamName : ''
    const refusal =
      key === '' || key.length > limits.keyCharacters
        ? 'the stream name is missing or too long'
        : this.decide(this.streamApp, key)
    if (refusal === null) {
      this.isPublishing = true
      return super.onPublish(message)
    }
    const { stream_id: stream } = this.parserPacket.header
    this.sendStatusMessage(stream, 'error', 'NetStream.Publish.BadName', refusal)
    throw new RefusedInput(refusal)
  }

  override onPlay(): void {
    throw new RefusedInput('playing: it only takes sends')
  }
}

/** Of all listeners of this server together. */
const halfOpen = new HalfOpen()

/**
 * Takes one RTMP connection: shakes hands, lets `admit` decide on its key, and hands on each message.
 * Whatever is malformed, endless or too large closes it.
 */
export function takeRtmp(socket: Socket, admit: Admit): void {
  const rtmp = new GuardedRtmp()
  let sink: PublishedSink | null = null
  let received = 0
  let acknowledged = 0
  let isOver = false
  const finish = (why: string): void => {
    if (isOver) return
    isOver = true
    clearTimeout(deadline)
    sink?.ended(why)
    // What was still to be said (a refusal) goes out first.
    socket.end()
    setTimeout(() => socket.destroy(), 500).unref()
  }
  halfOpen.add(socket)
  const deadline = setTimeout(
    () => finish('It did not begin to send.'),
    limits.publishSeconds * 1000,
  )
  socket.setNoDelay(true)
  socket.setTimeout(limits.idleSeconds * 1000, () => finish('Nothing came any more.'))
  rtmp.onOutputCallback = (bytes) => {
    if (socket.writable) socket.write(bytes)
  }
  rtmp.decide = (app, key) => {
    if (sink) return 'it sends already'
    const answer = admit(`${app}`, key, finish)
    if (typeof answer === 'string') return answer
    sink = answer
    halfOpen.settle(socket)
    clearTimeout(deadline)
    return null
  }
  rtmp.onPacketCallback = (packet) => sink?.packet(packet)
  rtmp.onDeleteStream = () => finish('It ended.')
  socket.on('data', (chunk: Buffer) => {
    if (isOver) return
    received += chunk.length
    sink?.bytes(chunk.length)
    try {
      rtmp.parserData(chunk)
      if (rtmp.inChunkSize < limits.leastChunkBytes || rtmp.inChunkSize > limits.mostChunkBytes)
        throw new RefusedInput('a chunk size like that')
      if (!sink && received > limits.bytesBeforePublishing)
        throw new RefusedInput('so much before it says where it belongs')
    } catch (error) {
      return finish(
        error instanceof RefusedInput
          ? `It was refused: ${error.message}.`
          : 'It does not speak RTMP, or what it sent is damaged.',
      )
    }
    if (received - acknowledged > acknowledgeEveryBytes) {
      acknowledged = received
      rtmp.sendACK(received >>> 0)
    }
  })
  socket.on('error', () => finish('The connection broke off.'))
  socket.on('close', () => finish('The connection was closed.'))
}
