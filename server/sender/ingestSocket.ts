import { connect, isIP, type Socket } from 'node:net'
import { connect as connectTls } from 'node:tls'

const connectSeconds = 10
const defaultPorts: Readonly<Record<string, number>> = { 'rtmp:': 1935, 'rtmps:': 443 }

/** A connection to where an RTMP or RTMPS address leads; rejects, in words, where nothing answers there. */
export function openIngestSocket(address: URL): Promise<Socket> {
  const port = Number(address.port) || (defaultPorts[address.protocol] ?? 1935)
  const host = address.hostname.replaceAll(/[[\]]/g, '')
  return new Promise((resolve, reject) => {
    const isSecure = address.protocol === 'rtmps:'
    // By number a server has no name to be asked for.
    const named = isIP(host) === 0 ? { servername: host } : {}
    const socket = isSecure ? connectTls({ host, port, ...named }) : connect({ host, port })
    const fail = (error: Error): void => {
      clearTimeout(deadline)
      socket.destroy()
      reject(error)
    }
    const deadline = setTimeout(
      () => fail(new Error(`nothing answers at ${host}:${port}`)),
      connectSeconds * 1000,
    )
    socket.once('error', fail)
    socket.once(isSecure ? 'secureConnect' : 'connect', () => {
      clearTimeout(deadline)
      socket.off('error', fail)
      resolve(socket)
    })
  })
}
