import { createServer, type IncomingMessage, type ServerResponse } from 'node:http'
import type { Socket } from 'node:net'
import { freeListenerPort } from './ports'
import type { WhipListener } from './whipListener'
import { OfferRefused } from './whipPeer'

const host = '127.0.0.1'
const path = '/whip'
/** An offer of two streams takes a few kB. */
const maxOfferBytes = 65_536
const maxConnections = 64
const waitMilliseconds = 10_000

export interface WhipEndpoint {
  readonly port: number
  /** Where a program calls that reaches this computer at `at`. */
  address(at: string): string
  /** Takes what comes in at another address of this computer as well. */
  takeConnection(socket: Socket): void
  close(): Promise<void>
}

export interface WhipEndpointOptions {
  firstPort: number
  /** The listener of a key, or why there is none. */
  listenerOf: (key: string) => WhipListener | string
  listeners: () => readonly WhipListener[]
}

interface Answer {
  status: number
  headers?: Record<string, string>
  body?: string
}

const inWords = (status: number, words: string, headers: Answer['headers'] = {}): Answer => ({
  status,
  headers: { 'content-type': 'text/plain; charset=utf-8', ...headers },
  body: words,
})

/** The body of a request, or null where it is larger than any offer. */
async function bodyOf(request: IncomingMessage): Promise<string | null> {
  const chunks: Buffer[] = []
  let bytes = 0
  for await (const chunk of request as AsyncIterable<Buffer>) {
    bytes += chunk.length
    if (bytes > maxOfferBytes) return null
    chunks.push(chunk)
  }
  return Buffer.concat(chunks).toString('utf8')
}

async function answerToOffer(
  request: IncomingMessage,
  listenerOf: WhipEndpointOptions['listenerOf'],
): Promise<Answer> {
  if (!/^application\/sdp\b/i.test(request.headers['content-type'] ?? ''))
    return inWords(415, 'What is posted here has to be application/sdp.')
  const [, key = ''] = /^Bearer +(\S+)$/i.exec(request.headers.authorization ?? '') ?? []
  const listener = listenerOf(key)
  if (typeof listener === 'string')
    return inWords(401, `Not taken: ${listener}.`, { 'www-authenticate': 'Bearer' })
  const offer = await bodyOf(request)
  if (offer === null) return inWords(413, 'An offer has at most 64 kB.')
  try {
    const { answer, name } = await listener.take(offer, request.socket.localAddress ?? host)
    return {
      status: 201,
      headers: { 'content-type': 'application/sdp', location: `${path}/${name}` },
      body: answer,
    }
  } catch (error) {
    if (error instanceof OfferRefused) return inWords(error.status, error.message)
    throw error
  }
}

async function answerTo(
  request: IncomingMessage,
  { listenerOf, listeners }: WhipEndpointOptions,
): Promise<Answer> {
  const [pathname = ''] = (request.url ?? '').split('?')
  // A page of any origin may send here: without the key it gets nothing.
  if (request.method === 'OPTIONS') return { status: 204 }
  if (pathname === path)
    return request.method === 'POST'
      ? answerToOffer(request, listenerOf)
      : inWords(405, 'An offer is posted.', { allow: 'POST, OPTIONS' })
  const name = pathname.startsWith(`${path}/`) ? pathname.slice(path.length + 1) : ''
  if (request.method !== 'DELETE')
    return inWords(405, 'A session can only be deleted.', { allow: 'DELETE, OPTIONS' })
  return listeners().some((listener) => listener.end(name))
    ? { status: 200 }
    : inWords(404, 'There is no such session.')
}

const forEveryOrigin = {
  'access-control-allow-origin': '*',
  'access-control-allow-methods': 'POST, DELETE, OPTIONS',
  'access-control-allow-headers': 'authorization, content-type',
  'access-control-expose-headers': 'location',
} as const

function write(response: ServerResponse, { status, headers, body }: Answer): void {
  response.writeHead(status, { ...forEveryOrigin, ...headers })
  response.end(body)
}

/**
 * An HTTP endpoint of WHIP (RFC 9725) on loopback, at which programs offer what they send under the key
 * that they were given. Candidates that are found later and restarts of ICE are not taken.
 */
export async function openWhipEndpoint(options: WhipEndpointOptions): Promise<WhipEndpoint> {
  const server = createServer(
    { headersTimeout: waitMilliseconds, requestTimeout: waitMilliseconds },
    (request, response) => {
      answerTo(request, options)
        .catch((error: unknown) => {
          console.error('An offer over WHIP failed:', (error as Error).message)
          return inWords(500, 'It could not be taken.')
        })
        .then((answer) => write(response, answer))
        // Whoever asked has gone.
        .catch(() => response.destroy())
    },
  )
  server.maxConnections = maxConnections
  const port = await freeListenerPort(options.firstPort, 'tcp')
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject)
    server.listen({ port, host }, resolve)
  })
  return {
    port,
    address: (at) => `http://${at}:${port}${path}`,
    takeConnection: (socket) => void server.emit('connection', socket),
    close: () =>
      new Promise((resolve) => {
        server.close(() => resolve())
        server.closeAllConnections()
      }),
  }
}
