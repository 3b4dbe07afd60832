import type { ChildProcess } from 'node:child_process'
import { spawnGuarded } from './guarded'
import { freePort } from './ports'
import { dataDirectory, root, serverEntry } from './paths'

/**
 * Room for what lives only as long as a request: shows that are saved are read, checked and let go, and
 * with the room that Node gives by itself a tenth of the time goes into clearing up after them.
 */
const memoryArguments = ['--max-semi-space-size=32']

export interface RunningApplication {
  address: string
  process: ChildProcess
  stop(): Promise<void>
}

interface Options {
  databaseUrl: string
  /** Where the database keeps its data, so that its disk is not filled to the last. */
  databaseFolder?: string
  host?: string
  port?: number
  loadDemo?: boolean
  quiet?: boolean
  /** Where the secret of this installation is kept. */
  keyFile?: string
  /** Where it records to, where it sends by itself. */
  recordingsFolder?: string
  /** A further host name under which it may be asked. */
  alsoNamed?: string
  /** What has to be known to use it from beyond this machine. */
  accessToken?: string
  /** Gets what the application writes, instead of the terminal. */
  onOutput?: (text: string) => void
}

/** The built application with its settings, started and answering. */
export async function startApplication(options: Options): Promise<RunningApplication> {
  const host = options.host ?? '127.0.0.1'
  const port = await freePort(options.port ?? 4710, host)
  if (options.port !== undefined && port !== options.port)
    console.log(`Port ${options.port} is taken; using ${port}.`)
  const address = `http://${reachableName(host)}:${port}`
  const child = spawnGuarded(process.execPath, [...memoryArguments, serverEntry], {
    cwd: root,
    stdio: options.onOutput
      ? ['ignore', 'pipe', 'pipe']
      : ['ignore', options.quiet ? 'ignore' : 'inherit', 'inherit'],
    env: {
      ...process.env,
      NODE_ENV: 'production',
      HOST: host,
      PORT: String(port),
      NITRO_HOST: host,
      NITRO_PORT: String(port),
      GREEN_MANTLE_DATABASE_URL: options.databaseUrl,
      GREEN_MANTLE_ORIGIN: address,
      GREEN_MANTLE_ALLOWED_HOSTS: [
        process.env.GREEN_MANTLE_ALLOWED_HOSTS,
        new URL(address).host,
        options.alsoNamed && `${options.alsoNamed}:${port}`,
      ]
        .filter(Boolean)
        .join(','),
      GREEN_MANTLE_KEY_FILE:
        options.keyFile ?? process.env.GREEN_MANTLE_KEY_FILE ?? `${dataDirectory}/installation.key`,
      ...(options.recordingsFolder ? { GREEN_MANTLE_RECORDINGS: options.recordingsFolder } : {}),
      ...(options.databaseFolder ? { GREEN_MANTLE_DATABASE_FOLDER: options.databaseFolder } : {}),
      GREEN_MANTLE_DEMO: options.loadDemo ? '1' : '0',
      ...(options.accessToken ? { GREEN_MANTLE_ACCESS_TOKEN: options.accessToken } : {}),
    },
  })
  for (const stream of [child.stdout, child.stderr])
    stream?.on('data', (bytes: Buffer) => options.onOutput?.(bytes.toString()))
  const stop = (): Promise<void> =>
    new Promise((resolve) => {
      if (child.exitCode !== null || child.signalCode !== null) return resolve()
      child.once('exit', () => resolve())
      child.kill('SIGTERM')
      setTimeout(() => child.kill('SIGKILL'), 5000).unref()
    })
  try {
    await untilReady(child, address, options.accessToken ?? process.env.GREEN_MANTLE_ACCESS_TOKEN)
  } catch (error) {
    await stop()
    throw error
  }
  return { address, process: child, stop }
}

/** The name under which this machine reaches what is bound to a host: "all addresses" is no address. */
function reachableName(host: string): string {
  if (host === '0.0.0.0' || host === '::') return '127.0.0.1'
  return host.includes(':') ? `[${host}]` : host
}

async function untilReady(
  child: ChildProcess,
  address: string,
  accessToken: string | undefined,
): Promise<void> {
  const headers = new Headers(accessToken ? { authorization: `Bearer ${accessToken}` } : [])
  const deadline = Date.now() + 60_000
  let last = 'no answer'
  while (Date.now() < deadline && child.exitCode === null && child.signalCode === null) {
    try {
      const answer = await fetch(`${address}/api/health`, { headers })
      if (answer.ok) return
      last = await answer.text()
    } catch (error) {
      last = String(error)
    }
    await new Promise((resolve) => setTimeout(resolve, 100))
  }
  throw new Error(`The application did not start: ${last}`)
}
