import { readdirSync, rmSync } from 'node:fs'
import { mkdtemp } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

const kinds = ['uploads', 'measuring', 'picture', 'trial', 'sender', 'head'] as const
export type WorkFolderKind = (typeof kinds)[number]

/** One name a process, so that what a killed one left is known to be nobody's. */
export const workFolderName = (kind: WorkFolderKind, owner: number = process.pid): string =>
  join(tmpdir(), `green-mantle-${kind}-${owner}`)

/** A new folder for one piece of work, which removes it when it is done. */
export const makeWorkFolder = (kind: WorkFolderKind): Promise<string> =>
  mkdtemp(`${workFolderName(kind)}-`)

const left = new RegExp(`^green-mantle-(?:${kinds.join('|')})-(\\d+)(?:-\\w+)?$`)

/** Removes what processes left that are no more. */
export function removeLeftFolders(): void {
  for (const name of readdirSync(tmpdir())) {
    const owner = Number(left.exec(name)?.[1] ?? Number.NaN)
    if (Number.isNaN(owner) || owner === process.pid || isRunning(owner)) continue
    rmSync(join(tmpdir(), name), { recursive: true, force: true })
  }
}

/** Whether a process of this number runs on this machine. */
export function isRunning(processId: number): boolean {
  try {
    process.kill(processId, 0)
    return true
  } catch (error) {
    return (error as NodeJS.ErrnoException).code === 'EPERM'
  }
}
