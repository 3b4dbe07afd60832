import { dataDirectory } from './paths'
import { startPrivateMariadb } from './mariadb'
import { ensurePrograms, systemPrograms } from './systemPackages'

/** The database the environment names, or a private one of our own, installed where it is missing. */
export async function openDatabase(): Promise<{ url: string; stop: () => Promise<void> }> {
  const given = process.env.GREEN_MANTLE_DATABASE_URL
  if (given) return { url: given, stop: () => Promise.resolve() }
  await ensurePrograms([systemPrograms.database])
  const mariadb = await startPrivateMariadb({ directory: `${dataDirectory}/mariadb` })
  return { url: mariadb.url, stop: () => mariadb.stop() }
}
