import { createServer, type Server, type Socket } from 'node:net'
import { networkInterfaces } from 'node:os'

/** The addresses that this computer has on the networks it is in. */
export const localAddresses = (): string[] =>
  Object.values(networkInterfaces()).flatMap((addresses = []) =>
    addresses
      .filter(({ family, internal }) => family === 'IPv4' && !internal)
      .map(({ address }) => address),
  )

/** A way in from the local network, which closes by itself. */
export interface OpenToNetwork {
  hosts: string[]
  /** In milliseconds since 1970. */
  until: number
  /** Closes it, and every connection that came through it. */
  close: () => Promise<void>
}

/** A port that is listened on already on loopback, and what takes its connections. */
interface Door {
  port: number
  onConnection: (socket: Socket) => void
}

export interface OpeningOptions {
  doors: readonly [Door, ...Door[]]
  addresses: readonly string[]
  milliseconds: number
  maxConnections: number
  /** It is closed, however that came. */
  onClose: () => void
}

/**
 * Takes connections on further addresses of this computer for a stated time. Throws where none of the
 * addresses can be listened on.
 */
export async function openToNetwork({
  doors,
  addresses,
  milliseconds,
  maxConnections,
  onClose,
}: OpeningOptions): Promise<OpenToNetwork> {
  const sockets = new Set<Socket>()
  const servers: Server[] = []
  async function isOpened({ port, onConnection }: Door, host: string): Promise<boolean> {
    const server = createServer((socket) => {
      sockets.add(socket)
      socket.once('close', () => sockets.delete(socket))
      onConnection(socket)
    })
    server.maxConnections = maxConnections
    const isListening = await new Promise<boolean>((resolve) => {
      server.once('error', () => resolve(false))
      server.listen({ port, host }, () => resolve(true))
    })
    if (isListening) servers.push(server)
    return isListening
  }
  const hosts: string[] = []
  for (const host of addresses) {
    const areOpened = await Promise.all(doors.map((door) => isOpened(door, host)))
    if (areOpened.includes(true)) hosts.push(host)
  }
  if (hosts.length === 0)
    throw new Error(
      addresses.length === 0
        ? 'This computer has no address on a local network.'
        : `Port ${doors[0].port} cannot be listened on at ${addresses.join(' and ')}.`,
    )
  const close = async (): Promise<void> => {
    clearTimeout(timer)
    onClose()
    const closed = servers.map((server) => new Promise((resolve) => server.close(resolve)))
    for (const socket of sockets) socket.destroy()
    await Promise.all(closed)
  }
  const timer = setTimeout(() => void close(), milliseconds)
  return { hosts, until: Date.now() + milliseconds, close }
}
