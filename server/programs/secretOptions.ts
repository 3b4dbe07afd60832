import { constants } from 'node:fs'
import { open, rm } from 'node:fs/promises'
import { join } from 'node:path'
import { runProgram } from './runProgram'
import { systemPrograms } from './systemPrograms'

/** Options that a program reads once out of a pipe with a name: they stand in no argument and in no file. */
export interface SecretOptions {
  /** What the program is told to read. */
  path: string
  /** Hands them over when the program reads, or forgets them when `over` resolves before. */
  handOver(over: Promise<unknown>): Promise<void>
}

const lookedEveryMilliseconds = 20
const longestSeconds = 5
/** What a pipe takes at once, so that it is handed over whole. */
const maxBytes = 4096

/** Makes the pipe, for nobody but us, in a folder of ours. */
export async function secretOptions(folder: string, text: string): Promise<SecretOptions> {
  if (Buffer.byteLength(text) > maxBytes) throw new Error('its key is too long')
  const path = join(folder, 'options')
  const { code } = await runProgram(systemPrograms.pipes, 'mkfifo', ['--mode=600', path], {
    timeLimitSeconds: longestSeconds,
  }).ended
  if (code !== 0) throw new Error('no pipe could be made for its key')
  return {
    path,
    async handOver(over) {
      let isOver = false
      void over.then(() => (isOver = true))
      while (!isOver)
        try {
          // Not waited in: opening fails as long as nobody reads.
          const pipe = await open(path, constants.O_WRONLY | constants.O_NONBLOCK)
          try {
            await pipe.write(text)
          } finally {
            await pipe.close()
          }
          break
        } catch (error) {
          if ((error as NodeJS.ErrnoException).code !== 'ENXIO') throw error
          await new Promise((resolve) => setTimeout(resolve, lookedEveryMilliseconds))
        }
      await rm(path, { force: true })
    },
  }
}
