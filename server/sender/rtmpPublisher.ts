import type { Socket } from 'node:net'
import RtmpClient from 'node-media-server/src/protocol/rtmp_client.js'
import Rtmp, { type MediaPacket } from 'node-media-server/src/protocol/rtmp.js'
import '../listeners/quietProtocol'
import { openIngestSocket } from './ingestSocket'
import { fourCharacterCodes } from '@green-mantle/core/encoding'
import type { Codec } from '@green-mantle/core/show'
import type { Ingest, Publisher } from './publisher'

const connectSeconds = 10
const idleSeconds = 20
/** Chunks of a message carry its stream's number at this place behind a header of one byte. */
const streamNumberAt = 8

/**
 * A message as it goes out. The library writes every message to stream 0; what an ingest gave out by
 * createStream is put in its place.
 */
function messageFor(packet: MediaPacket, stream: number): Buffer {
  const message = Rtmp.createMessage(packet)
  message.writeUInt32LE(stream, streamNumberAt)
  return message
}

/** An ingest has nothing long to say: whatever is longer is no answer, and takes no memory here. */
const answerLimits = { messageBytes: 65_536, chunkStreams: 16 } as const

class Client extends RtmpClient {
  /** What an ingest is told of codecs that are newer than the protocol; those that know none take no notice. */
  private newerCodecs: string[] = []

  announce(codec: Codec): void {
    if (codec !== 'h264') this.newerCodecs = [fourCharacterCodes[codec]]
  }

  /** As the library connects, with the list of codecs where there is one (Enhanced RTMP v1). */
  override sendConnect(): Promise<unknown> {
    const { newerCodecs } = this
    if (newerCodecs.length === 0) return super.sendConnect()
    this.setChunkSize(this.outChunkSize)
    // The library writes as a strict array what is marked like this.
    const fourCcList = Object.defineProperty([...newerCodecs], 'sarray', { value: true })
    const cmdObj = {
      ...{ app: this.urlInfo?.app, tcUrl: this.baseUri, flashVer: 'FMLE/3.0' },
      ...{ capabilities: 15, audioCodecs: 4071, videoCodecs: 252, objectEncoding: 0, fourCcList },
    }
    return this.sendCommand('connect', { cmdObj, args: [] })
  }

  override packetAlloc(): void {
    if (
      this.parserPacket.header.length > answerLimits.messageBytes ||
      this.inPackets.size > answerLimits.chunkStreams
    )
      throw new Error('it says more than an ingest does')
    super.packetAlloc()
  }

  /** Over a socket that we made: the library knows no TLS, and puts the key into the address. */
  begin(socket: Socket, { host, port, app }: { host: string; port: number; app: string }): void {
    this.resetProtocolState()
    this.urlInfo = { host, port, app, streamName: '', query: {} }
    this.baseUri = `rtmp://${host}:${port}/${app}`
    this.socket = socket
    this.connected = true
    this.onOutputCallback = (bytes) => {
      if (!socket.destroyed) socket.write(bytes)
    }
    this.sendClientHandshake()
  }
}

/** What went wrong, with the key cut out wherever an ingest repeats it. */
const withoutKey = (words: string, key: string): string =>
  (key === '' ? words : words.replaceAll(key, '…')).slice(0, 300)

/** Connects to an ingest and asks it to take a send; rejects, in words, where it does not. */
export async function publishOverRtmp(
  { address, key }: Ingest,
  signal: AbortSignal,
  codec: Codec = 'h264',
): Promise<Publisher> {
  const url = new URL(address)
  const app = decodeURIComponent(url.pathname.replaceAll(/^\/+|\/+$/g, '')) + url.search
  const socket = await openIngestSocket(url)
  if (signal.aborted) {
    socket.destroy()
    throw new Error('it was stopped')
  }
  const client = new Client()
  client.announce(codec)
  let why = ''
  let end: (words: string) => void = () => {}
  const ended = new Promise<string>((resolve) => {
    end = (words) => resolve(withoutKey(words, key))
  })
  const over = (words: string): void => {
    why ||= words
    socket.destroy()
    client.rejectAllPending(new Error(why))
    client.handshakeReject?.(new Error(why))
    end(why)
  }
  socket.setNoDelay(true)
  // While a send waits the ingest says nothing; what counts is that bytes go out.
  socket.setTimeout(idleSeconds * 1000, () => over('nothing went out any more'))
  socket.on('error', () => over('the connection broke off'))
  socket.on('close', () => over('it hung up'))
  socket.on('data', (bytes: Buffer) => {
    try {
      client.handleData(bytes)
    } catch {
      over('it does not speak RTMP')
    }
  })
  client.onErrorCallback = () => over('it does not speak RTMP')
  client.onCloseCallback = () => over('it ended the send')
  client.onStatusCallback = (code, { description }) => {
    if (/Failed|BadName|Rejected|Error|Unpublish/.test(code)) over(description || code)
  }
  const stop = (): void => over('it was stopped')
  signal.addEventListener('abort', stop, { once: true })
  const deadline = setTimeout(() => over('it did not answer'), connectSeconds * 1000)
  try {
    await new Promise<void>((resolve, reject) => {
      client.onHandshakeCallback = resolve
      client.begin(socket, { host: url.hostname, port: Number(url.port) || 1935, app })
      client.handshakeReject = reject
    })
    await client.sendConnect()
    const stream = await client.sendCreateStream()
    await client.sendPublish(key)
    const before = socket.bytesWritten
    return {
      take: (packet) => {
        if (!socket.destroyed) socket.write(messageFor(packet, stream))
      },
      get waitingBytes() {
        return socket.writableLength
      },
      get sentBytes() {
        return Math.max(0, socket.bytesWritten - socket.writableLength - before)
      },
      accepted: Promise.resolve(true),
      close: () => socket.end(() => over('it was ended')),
      ended,
    }
  } catch (error) {
    over((error as Error).message)
    throw new Error(withoutKey(why, key), { cause: undefined })
  } finally {
    clearTimeout(deadline)
    void ended.then(() => signal.removeEventListener('abort', stop))
  }
}
