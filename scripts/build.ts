import { createHash } from 'node:crypto'
import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { binary, root, serverEntry } from './paths'
import { runOrThrow } from './run'

const stampFile = `${root}/.output/built-from`
const builtFrom = [
  'app',
  'core',
  'demo',
  'server',
  'public',
  'nuxt.config.ts',
  'package.json',
  'package-lock.json',
]

function* filesUnder(path: string): Generator<string> {
  const folder = readdirSync(path, { withFileTypes: true })
  for (const entry of folder.sort((a, b) => a.name.localeCompare(b.name))) {
    if (entry.name === 'node_modules' || entry.name.endsWith('.test.ts')) continue
    if (entry.isDirectory()) yield* filesUnder(`${path}/${entry.name}`)
    else yield `${path}/${entry.name}`
  }
}

function fingerprint(): string {
  const hash = createHash('sha256')
  for (const part of builtFrom) {
    const path = `${root}/${part}`
    if (!existsSync(path)) continue
    const files = part.includes('.') ? [path] : filesUnder(path)
    for (const file of files) hash.update(file.slice(root.length)).update(readFileSync(file))
  }
  return hash.digest('hex')
}

/** Builds the application where what it is built from has changed since the last time. */
export async function ensureBuild(): Promise<void> {
  const wanted = fingerprint()
  const isBuilt = existsSync(serverEntry) && existsSync(stampFile)
  if (isBuilt && readFileSync(stampFile, 'utf8') === wanted) return
  console.log('Building the application …')
  await runOrThrow(process.execPath, [`${root}/node_modules/nuxt/bin/nuxt.mjs`, 'build'])
  writeFileSync(stampFile, wanted)
}

/** Writes the types that Nuxt makes up, without a build. */
export async function prepareTypes(): Promise<void> {
  await runOrThrow(binary('nuxt'), ['prepare'])
}
