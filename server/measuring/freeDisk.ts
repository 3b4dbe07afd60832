import { mkdir, statfs } from 'node:fs/promises'
import { readSettings } from '../settings'

/** What is free where recordings are kept, in gigabytes, rounded down to a tenth. */
export async function freeDiskGigabytes(recordingsFolder: string): Promise<number> {
  await mkdir(recordingsFolder, { recursive: true })
  const { bavail, bsize } = await statfs(recordingsFolder)
  return Math.floor((bavail * bsize) / 1e8) / 10
}

/** Likewise of this installation; null where it can't be read, without which the rest is of use. */
export const freeForRecordings = (): Promise<number | null> =>
  freeDiskGigabytes(readSettings().recordingsFolder).catch(() => null)
