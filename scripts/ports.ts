import { createServer } from 'node:net'

function isFree(port: number, host: string): Promise<boolean> {
  return new Promise((resolve) => {
    const probe = createServer()
    probe.once('error', () => resolve(false))
    probe.listen({ port, host, exclusive: true }, () => probe.close(() => resolve(true)))
  })
}

/** The first free port from `from` on; tries a hundred. */
export async function freePort(from: number, host = '127.0.0.1'): Promise<number> {
  for (let port = from; port < from + 100; port += 1) if (await isFree(port, host)) return port
  throw new Error(`No free port between ${from} and ${from + 99} on ${host}.`)
}

/** The port that a setting names; throws, in words, where it names none. */
export function portFrom(text: string | undefined, usual: number): number {
  if (text === undefined || text === '') return usual
  const port = Number(text)
  if (Number.isInteger(port) && port >= 1 && port <= 65_535) return port
  throw new Error(`GREEN_MANTLE_PORT is "${text}"; a port is a whole number from 1 to 65535.`)
}
