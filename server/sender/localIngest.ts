import { createServer, type Server, type Socket } from 'node:net'
import { nanoid } from 'nanoid'
import { freeListenerPort } from '../listeners/ports'
import { type Admit, type PublishedSink, takeRtmp } from '../listeners/rtmpConnection'

const host = '127.0.0.1'
const firstPort = 19_600
/** Fifty destinations with ladders and backups, two canvases, and some that have not said who they are. */
const maxConnections = 320

/** Takes what programs of this computer send, each under a key that was made up for it. */
export class LocalIngest {
  private readonly takers = new Map<string, () => PublishedSink | string>()
  private readonly sockets = new Set<Socket>()

  private constructor(
    private readonly server: Server,
    readonly port: number,
  ) {}

  /** `admit` decides about what nobody is expected for; without it that is refused. */
  static async open(admit?: Admit): Promise<LocalIngest> {
    const port = await freeListenerPort(firstPort, 'tcp')
    const server = createServer()
    const made = new LocalIngest(server, port)
    const nobody: Admit = () => 'nobody is expected under this key'
    server.maxConnections = maxConnections
    server.on('connection', (socket) => {
      made.sockets.add(socket)
      socket.once('close', () => made.sockets.delete(socket))
      takeRtmp(
        socket,
        (app, key, end) => made.takers.get(key)?.() ?? (admit ?? nobody)(app, key, end),
      )
    })
    await new Promise<void>((resolve, reject) => {
      server.once('error', reject)
      server.listen({ port, host }, resolve)
    })
    return made
  }

  /** The address of one application on it. */
  addressOf(application: string): string {
    return `rtmp://${host}:${this.port}/${application}`
  }

  /** Expects a send, and gives the key under which it is taken. */
  expect(taker: () => PublishedSink | string): string {
    const key = nanoid(20)
    this.takers.set(key, taker)
    return key
  }

  async close(): Promise<void> {
    for (const socket of this.sockets) socket.destroy()
    await new Promise((resolve) => this.server.close(resolve))
  }
}
