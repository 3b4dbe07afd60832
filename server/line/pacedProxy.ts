import { connect, createServer, type Socket } from 'node:net'
import type { Pacer } from './pacer'

/** An address through which bytes go on to another one, as a line would let them. */
export interface PacedProxy {
  port: number
  close(): Promise<void>
}

/** Takes connections on loopback and hands what they send on to `target`, through the pacer; answers pass freely. */
export async function pacedProxy(target: number, pacer: Pacer): Promise<PacedProxy> {
  const sockets = new Set<Socket>()
  const server = createServer((from) => {
    const to = connect(target, '127.0.0.1')
    const connection = pacer.open()
    for (const socket of [from, to]) {
      sockets.add(socket)
      socket.on('error', () => {})
      socket.on('close', () => {
        sockets.delete(socket)
        connection.close()
        from.destroy()
        to.destroy()
      })
    }
    to.pipe(from)
    void (async () => {
      for await (const chunk of from as AsyncIterable<Buffer>) {
        // In pieces that a tick may carry, so that a large one does not come all at once at the end.
        for (let at = 0; at < chunk.length; at += pieceBytes) {
          const piece = chunk.subarray(at, at + pieceBytes)
          await connection.pass(piece.length)
          to.write(piece)
        }
      }
      to.end()
    })().catch(() => from.destroy())
  })
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject)
    server.listen({ port: 0, host: '127.0.0.1' }, resolve)
  })
  const address = server.address()
  return {
    port: typeof address === 'object' && address ? address.port : 0,
    async close() {
      for (const socket of sockets) socket.destroy()
      await new Promise((resolve) => server.close(resolve))
    },
  }
}

const pieceBytes = 4096
