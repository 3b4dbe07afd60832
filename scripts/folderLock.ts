import { existsSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { setTimeout as pause } from 'node:timers/promises'
import { processFacts } from './processes'

/** How long one that is just ending is waited for. */
const patienceMilliseconds = 2000

/**
 * Holds a folder for this process alone; throws, in words, where another that still runs holds it.
 * What a killed one left is taken over.
 */
export async function lockFolder(directory: string): Promise<{ release(): void }> {
  const file = `${directory}/in-use-by`
  const deadline = Date.now() + patienceMilliseconds
  for (;;) {
    try {
      writeFileSync(file, `${process.pid}\n`, { flag: 'wx' })
      return { release: () => rmSync(file, { force: true }) }
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error
    }
    const owner = Number(existsSync(file) ? readFileSync(file, 'utf8') : Number.NaN)
    const isHeld = owner > 0 && processFacts(owner) !== null
    if (!isHeld) rmSync(file, { force: true })
    else if (Date.now() > deadline)
      throw new Error(
        `The folder ${directory} is in use already, by process ${owner}: Green Mantle was started twice. Use the one that runs, or stop it (kill ${owner}).`,
      )
    else await pause(50)
  }
}
