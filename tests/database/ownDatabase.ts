import { inject } from 'vitest'
import { connect } from '../../server/database/connection'

/** A database of a test file's own on the server that all share, empty; its address. */
export async function ownDatabase(name: string): Promise<string> {
  const url = new URL(inject('databaseUrl'))
  const server = connect(url.href, 1)
  const database = `green_mantle_${name}`
  await server.raw(`DROP DATABASE IF EXISTS ${database}`)
  await server.raw(`CREATE DATABASE ${database} CHARACTER SET utf8mb4 COLLATE utf8mb4_bin`)
  await server.destroy()
  url.pathname = `/${database}`
  return url.href
}
