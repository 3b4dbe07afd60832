import { createHash, randomBytes } from 'node:crypto'
import { chmod, mkdir, open, readFile, stat } from 'node:fs/promises'
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

async function createKeyFile(path: string): Promise<void> {
  await mkdir(dirname(path), { recursive: true })
  // Fails where another process has just made it, which is as good.
  const file = await open(path, 'wx', privateMode)
  try {
    await file.writeFile(`${randomBytes(keyBytes).toString('base64')}\n`)
    await file.sync()
  } finally {
    await file.close()
  }
  await chmod(path, privateMode)
}

/**
 * Reads the key file, and makes one where there is none. Throws where others on this machine may
 * read it, or where it does not hold a key: it is never overwritten.
 */
export async function readKeyFile(path: string): Promise<InstallationKey> {
  await createKeyFile(path).catch((error: NodeJS.ErrnoException) => {
    if (error.code !== 'EEXIST') throw error
  })
  const { mode } = await stat(path)
  if ((mode & 0o077) !== 0)
    throw new Error(
      `The key file ${path} may be read by others (mode ${(mode & 0o777).toString(8)}). Set it to 600: chmod 600 ${path}`,
    )
  const bytes = Buffer.from((await readFile(path, 'utf8')).trim(), 'base64')
  if (bytes.length !== keyBytes)
    throw new Error(
      `The key file ${path} is damaged: it holds ${bytes.length} bytes, not ${keyBytes}. Put your copy of it back.`,
    )
  return asKey(bytes)
}
