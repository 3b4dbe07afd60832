import { rm } from 'node:fs/promises'
import { createServer, type Server, type Socket } from 'node:net'
import { join } from 'node:path'
import type { EncodedOutput } from '@green-mantle/core/encoding'
import { makeWorkFolder } from '../files/workFolders'
import type { PublishedSink } from '../listeners/rtmpConnection'
import { fragmentPackets } from './fragmentPackets'

/**
 * Takes what encoder programs hand over as MP4 in fragments, each at a socket in a folder that nobody
 * else can enter: such a socket is told no key.
 */
export class FragmentIngest {
  private readonly servers: Server[] = []
  private readonly sockets = new Set<Socket>()

  private constructor(private readonly folder: string) {}

  static async open(): Promise<FragmentIngest> {
    return new FragmentIngest(await makeWorkFolder('sender'))
  }

  /** Expects an encode, and gives the address at which its program hands it over. */
  expect({ rendition }: EncodedOutput, taker: () => PublishedSink | string): string {
    const path = join(this.folder, `${this.servers.length}`)
    const server = createServer((socket) => this.take(socket, taker(), fragmentPackets(rendition)))
    server.on('error', (error) => console.warn('An encode cannot be handed over.', error.message))
    server.listen(path)
    this.servers.push(server)
    return `unix:${path}`
  }

  private take(
    socket: Socket,
    sink: PublishedSink | string,
    read: ReturnType<typeof fragmentPackets>,
  ): void {
    if (typeof sink === 'string') return void socket.destroy()
    this.sockets.add(socket)
    socket.on('data', (piece: Buffer) => {
      try {
        sink.bytes(piece.length)
        for (const packet of read(piece)) sink.packet(packet)
      } catch (error) {
        console.warn('An encode was handed over damaged.', (error as Error).message)
        socket.destroy()
      }
    })
    socket.on('error', () => {})
    socket.once('close', () => {
      this.sockets.delete(socket)
      sink.ended('It ended.')
    })
  }

  async close(): Promise<void> {
    for (const socket of this.sockets) socket.destroy()
    await Promise.all(this.servers.map((server) => new Promise((resolve) => server.close(resolve))))
    await rm(this.folder, { recursive: true, force: true })
  }
}
