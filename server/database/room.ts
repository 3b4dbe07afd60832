import { statfs } from 'node:fs/promises'
import { readDatabaseFolder } from '../settings'

/**
 * So much of the disk is left to the database. It ends itself where it has to take a statement back and
 * finds no room for that, so nothing that writes may bring it there.
 */
const reserveBytes = 64_000_000
/** What is written stands twice for a while. */
const copies = 2

/**
 * Throws as the system does where a disk is full, before the database is asked, where `addedBytes` more
 * would leave too little. Where the database's disk is not known, or is another machine's, nothing is checked.
 */
export async function checkRoom(addedBytes = 0, folder = readDatabaseFolder()): Promise<void> {
  if (folder === null) return
  const disk = await statfs(folder).catch(() => null)
  if (!disk) return
  const freeBytes = disk.bavail * disk.bsize
  if (freeBytes < reserveBytes + copies * addedBytes)
    throw Object.assign(
      new Error(`No space left on device for the database: ${freeBytes} bytes.`),
      {
        code: 'ENOSPC',
      },
    )
}
