import { createServer } from 'node:net'
import { createSocket } from 'node:dgram'

const tried = 200

function isFree(port: number, kind: 'tcp' | 'udp'): Promise<boolean> {
  return new Promise((resolve) => {
    if (kind === 'tcp') {
      const probe = createServer()
      probe.once('error', () => resolve(false))
      probe.listen({ port, host: '127.0.0.1', exclusive: true }, () =>
        probe.close(() => resolve(true)),
      )
    } else {
      const probe = createSocket('udp4')
      probe.once('error', () => resolve(false))
      probe.bind({ port, address: '127.0.0.1', exclusive: true }, () =>
        probe.close(() => resolve(true)),
      )
    }
  })
}

/** The first port from `from` on that nobody has and that is not among `taken`. */
export async function freeListenerPort(
  from: number,
  kind: 'tcp' | 'udp',
  taken: ReadonlySet<number> = new Set(),
): Promise<number> {
  for (let port = from; port < from + tried; port += 1)
    if (!taken.has(port) && (await isFree(port, kind))) return port
  throw new Error(`No port is free between ${from} and ${from + tried - 1}.`)
}
