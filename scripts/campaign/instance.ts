import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { demoShow } from '@green-mantle/demo'
import type { Show } from '@green-mantle/core/show'
import { type RunningApplication, startApplication } from '../application'
import { type PrivateMariadb, startPrivateMariadb } from '../mariadb'
import { meant } from '../../tests/meant'

/** An instance of its own: database, application and folder, to be treated badly. */
export interface Instance {
  application: RunningApplication
  mariadb: PrivateMariadb
  /** What the application wrote. */
  output: string[]
  killApplication(): Promise<void>
  killDatabase(): Promise<void>
  stop(): Promise<void>
}

export async function startInstance(firstPort: number): Promise<Instance> {
  const directory = mkdtempSync(join(tmpdir(), 'green-mantle-campaign-'))
  const output: string[] = []
  const startOn = (url: string, port: number) =>
    startApplication({
      databaseUrl: url,
      databaseFolder: mariadb.folder,
      port,
      keyFile: join(directory, 'installation.key'),
      onOutput: (text) => output.push(text),
    })
  const mariadb = await startPrivateMariadb({ directory, firstPort: firstPort + 50 })
  const application = await startOn(mariadb.url, firstPort)
  const instance: Instance = {
    application,
    mariadb,
    output,
    async killApplication() {
      const { port } = new URL(instance.application.address)
      const { process: child } = instance.application
      const ended = new Promise((resolve) => child.once('exit', resolve))
      child.kill('SIGKILL')
      await ended
      instance.application = await startOn(instance.mariadb.url, Number(port))
    },
    async killDatabase() {
      const { port } = instance.mariadb
      await instance.mariadb.kill()
      instance.mariadb = await startPrivateMariadb({ directory, port })
    },
    async stop() {
      await instance.application.stop()
      await instance.mariadb.stop()
      rmSync(directory, { recursive: true, force: true })
    },
  }
  return instance
}

/** One figure of the campaign, with what is wanted of it. */
export interface Finding {
  name: string
  value: number
  unit: string
  /** In words, as "0" or "under 3". */
  wanted: string
  isReached: boolean
}

export const finding = (
  name: string,
  value: number,
  unit: string,
  [wanted, isReached]: readonly [string, boolean],
): Finding => ({ name, value, unit, wanted, isReached })

export const none = (value: number) => ['0', value === 0] as const
export const under = (value: number, limit: number) => [`under ${limit}`, value < limit] as const

export interface Saved {
  status: number
  revision: number
}

export async function createShow(address: string, show: Show = demoShow): Promise<string> {
  const response = await fetch(`${address}/api/shows`, {
    method: 'POST',
    headers: { ...meant, 'content-type': 'application/json' },
    body: JSON.stringify(show),
  })
  if (!response.ok) throw new Error(`A show could not be made: ${response.status}`)
  return ((await response.json()) as { id: string }).id
}

/** Saves a show; a status of 0 means that no answer came. */
export async function saveShow(
  address: string,
  id: string,
  revision: number,
  show: Show,
): Promise<Saved> {
  try {
    const response = await fetch(`${address}/api/shows/${id}`, {
      method: 'PUT',
      headers: { ...meant, 'content-type': 'application/json', 'if-match': `"${revision}"` },
      body: JSON.stringify(show),
      signal: AbortSignal.timeout(20_000),
    })
    await response.text()
    const tag = /^"(\d+)"$/.exec(response.headers.get('etag') ?? '')?.[1]
    return { status: response.status, revision: Number(tag ?? revision) }
  } catch {
    return { status: 0, revision }
  }
}

export const quantile = (values: readonly number[], share: number): number =>
  [...values].sort((a, b) => a - b)[
    Math.min(values.length - 1, Math.floor(values.length * share))
  ] ?? 0

/** Memory that a process holds, in MB. */
export function residentMegabytes(pid: number): number {
  const [, kilobytes] = /VmRSS:\s+(\d+) kB/.exec(readFileSync(`/proc/${pid}/status`, 'utf8')) ?? []
  return Number(kilobytes) / 1000
}
