import { connect, createServer, type Socket } from 'node:net'
import { openIngestSocket } from '../sender/ingestSocket'

/** An address on loopback through which sends go on to a host of the user's own. */
export interface OwnHostRelay {
  /** Where a program here sends to; the name of a stream is put behind it. */
  address: string
  close(): Promise<void>
}

const closed = (socket: Socket): Promise<void> =>
  new Promise((resolve) => {
    if (socket.destroyed) resolve()
    else socket.once('close', () => resolve())
  })

/** Resolves when the system has taken the bytes, which it does as the line carries what came before. */
const written = (to: Socket, bytes: Buffer): Promise<void> =>
  new Promise((resolve, reject) => to.write(bytes, (error) => (error ? reject(error) : resolve())))

/**
 * Hands RTMP on to an ingest of the user's own, whose answers go back to who sends. What has left is handed
 * to a listener of ours too, so that it can be said what it was and when it went; what that answers is
 * thrown away. Rejects, in words, where nothing answers at the address.
 */
export async function ownHostRelay(ingest: string, listenerPort: number): Promise<OwnHostRelay> {
  const target = new URL(ingest)
  const tried = await openIngestSocket(target).catch((error: unknown) => {
    throw new Error(`Your own host could not be reached: ${(error as Error).message}.`)
  })
  tried.destroy()
  const sockets = new Set<Socket>()
  const keep = (socket: Socket): void => {
    sockets.add(socket)
    socket.on('error', () => {})
    socket.on('close', () => sockets.delete(socket))
  }

  async function handOn(from: Socket): Promise<void> {
    const to = await openIngestSocket(target)
    const copy = connect(listenerPort, '127.0.0.1')
    for (const socket of [to, copy]) keep(socket)
    copy.resume()
    to.pipe(from)
    void closed(to).then(() => from.destroy())
    try {
      for await (const bytes of from as AsyncIterable<Buffer>) {
        await written(to, bytes)
        if (!copy.destroyed) copy.write(bytes)
      }
    } finally {
      to.end()
      copy.end()
    }
  }

  const server = createServer((from) => {
    keep(from)
    handOn(from).catch(() => from.destroy())
  })
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject)
    server.listen({ port: 0, host: '127.0.0.1' }, resolve)
  })
  const own = server.address()
  const port = typeof own === 'object' && own ? own.port : 0
  return {
    address: `rtmp://127.0.0.1:${port}${target.pathname.replace(/\/+$/, '')}`,
    async close() {
      for (const socket of sockets) socket.destroy()
      await new Promise((resolve) => server.close(resolve))
    },
  }
}
