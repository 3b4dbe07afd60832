import { createHash, randomBytes, randomUUID } from 'node:crypto'
import { chmod, link, mkdir, open, readFile, rm, stat } from 'node:fs/promises'
import { dirname } from 'node:path'

/** The secret of this installation, under which all others are sealed. */
export interface InstallationKey {
  bytes: Buffer
  /** Tells key files apart without saying anything of their contents. */
  id: string
}

const keyBytes = 32
const privateMode = 0o600

const asKey = (bytes: Buffer): InstallationKey => ({
  bytes,
  id: createHash('sha256').update('green-mantle key file').update(bytes).digest('hex').slice(0, 12),
})

/** Thrown where the key file can't be used; says what is wrong with it and nothing of what is in it. */
export class KeyFileProblem extends Error {}

/** Makes the file whole or not at all, so that one that is cut off leaves nothing that looks like one. */
async function createKeyFile(path: string): Promise<void> {
  await mkdir(dirname(path), { recursive: true })
  const unfinished = `${path}.${randomUUID()}.unfinished`
  const file = await open(unfinished, 'wx', privateMode)
  try {
    await file.writeFile(`${randomBytes(keyBytes).toString('base64')}\n`)
    await file.sync()
  } finally {
    await file.close()
  }
  try {
    await chmod(unfinished, privateMode)
    // Fails where another process has just made it, which is as good.
    await link(unfinished, path)
  } finally {
    await rm(unfinished, { force: true })
  }
}

const isThere = (path: string): Promise<boolean> =>
  stat(path).then(
    () => true,
    (error: NodeJS.ErrnoException) => {
      if (error.code === 'ENOENT') return false
      throw error
    },
  )

/**
 * Reads the key file, and makes one where there is none. Throws where others on this machine may
 * read it, or where it does not hold a key: it is never overwritten.
 */
export async function readKeyFile(path: string): Promise<InstallationKey> {
  if (!(await isThere(path)))
    await createKeyFile(path).catch((error: NodeJS.ErrnoException) => {
      if (error.code !== 'EEXIST') throw error
    })
  const { mode } = await stat(path)
  if ((mode & 0o077) !== 0)
    throw new KeyFileProblem(
      `The key file ${path} may be read by others (mode ${(mode & 0o777).toString(8)}). Set it to 600: chmod 600 ${path}`,
    )
  const text = (await readFile(path, 'utf8')).trim()
  const bytes = Buffer.from(text, 'base64')
  if (bytes.length !== keyBytes)
    throw new KeyFileProblem(
      `The key file ${path} is ${text === '' ? 'empty' : 'damaged: it does not hold a key'}. Put your copy of it back; without one, remove it, and paste all keys again.`,
    )
  return asKey(bytes)
}
