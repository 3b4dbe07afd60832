import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { TestProject } from 'vitest/node'
import { startPrivateMariadb } from '../../scripts/mariadb'

declare module 'vitest' {
  export interface ProvidedContext {
    databaseUrl: string
  }
}

/** A MariaDB of its own for the database tests, gone when they end. */
export default async function setup(project: TestProject) {
  const directory = mkdtempSync(join(tmpdir(), 'green-mantle-db-'))
  const mariadb = await startPrivateMariadb({ directory, firstPort: 4300 })
  project.provide('databaseUrl', mariadb.url)
  return async () => {
    await mariadb.stop()
    rmSync(directory, { recursive: true, force: true })
  }
}
