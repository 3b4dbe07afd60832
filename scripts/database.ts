import type { ChildProcess } from 'node:child_process'
import { dataDirectory } from './paths'
import { type PrivateMariadb, startPrivateMariadb } from './mariadb'
import { systemPrograms } from '../server/programs/systemPrograms'
import { ensurePrograms } from './systemPackages'

export interface OpenedDatabase {
  url: string
  stop: () => Promise<void>
  /** null where it is not ours to run. */
  own: OwnDatabase | null
}

/** A private database's server, and how to start it again where it was. */
export interface OwnDatabase {
  /** Where it keeps its data. */
  folder: string
  process: ChildProcess
  again: () => Promise<OwnDatabase>
}

const directory = `${dataDirectory}/mariadb`

/** `stop` always ends the server that was started last. */
function opened(first: PrivateMariadb): OpenedDatabase {
  let mariadb = first
  const own = (): OwnDatabase => ({
    folder: mariadb.folder,
    process: mariadb.process,
    again: async () => {
      mariadb = await startPrivateMariadb({ directory, port: mariadb.port })
      return own()
    },
  })
  return { url: mariadb.url, stop: () => mariadb.stop(), own: own() }
}

/** The database the environment names, or a private one of our own, installed where it is missing. */
export async function openDatabase(): Promise<OpenedDatabase> {
  const given = process.env.GREEN_MANTLE_DATABASE_URL
  if (given) return { url: given, stop: () => Promise.resolve(), own: null }
  await ensurePrograms([systemPrograms.database])
  return opened(await startPrivateMariadb({ directory }))
}
