import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { startPrivateMariadb } from '../../scripts/mariadb'

/** One MariaDB for all workers; each makes a database of its own on it. */
export default async function setup(): Promise<() => Promise<void>> {
  const directory = mkdtempSync(join(tmpdir(), 'green-mantle-e2e-'))
  const mariadb = await startPrivateMariadb({ directory, firstPort: 4400 })
  process.env.GREEN_MANTLE_TEST_DATABASE_SERVER = mariadb.urlOf('')
  return async () => {
    await mariadb.stop()
    rmSync(directory, { recursive: true, force: true })
  }
}
