import { createSocket, type RemoteInfo, type Socket } from 'node:dgram'
import { lookup } from 'node:dns/promises'
import { once } from 'node:events'
import { type SrtSeen, SrtTally } from './srtTally'

/** The way of an SRT send to its ingest, on which it is seen what gets there. */
export interface SrtWatch {
  /** Where the program that sends calls, on this computer; whatever it says goes on to the ingest. */
  readonly port: number
  seen(): SrtSeen
  close(): void
}

const socketOf = async (kind: 'udp4' | 'udp6', address?: string): Promise<Socket> => {
  const socket = createSocket(kind)
  // What nobody listens to comes back as an error; the program finds out by itself.
  socket.on('error', () => {})
  socket.bind(0, address)
  await once(socket, 'listening')
  return socket
}

/** Opens a port of this computer's own that leads to an ingest. Rejects where its name is not known. */
export async function watchSrt(host: string, port: number): Promise<SrtWatch> {
  const { address, family } = await lookup(host.replace(/^\[|\]$/g, ''))
  const tally = new SrtTally()
  const inner = await socketOf('udp4', '127.0.0.1')
  const outer = await socketOf(family === 6 ? 'udp6' : 'udp4')
  const close = (): void => {
    inner.close()
    outer.close()
  }
  try {
    // The system hands on what comes from there alone.
    outer.connect(port, address)
    await once(outer, 'connect')
  } catch (error) {
    close()
    throw error
  }
  let program: RemoteInfo | null = null
  inner.on('message', (datagram, from) => {
    // Who calls first is the program; nobody else on this computer sends anything along.
    program ??= from
    if (from.port !== program.port) return
    tally.there(datagram)
    outer.send(datagram)
  })
  outer.on('message', (datagram) => {
    if (!program) return
    tally.back(datagram)
    inner.send(datagram, program.port, '127.0.0.1')
  })
  return {
    port: inner.address().port,
    seen: () => tally.seen(),
    close,
  }
}
