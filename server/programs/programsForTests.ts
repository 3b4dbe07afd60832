import { readdirSync, readFileSync } from 'node:fs'

/** The arguments of every program that this process has running; other tests may run the same beside it. */
export const ownPrograms = (): string[] =>
  readdirSync('/proc')
    .filter((name) => /^\d+$/.test(name))
    .flatMap((name) => {
      try {
        // After the name, which may hold anything, come its state and its parent.
        const [, parent] = readFileSync(`/proc/${name}/stat`, 'utf8')
          .replace(/^.*\) /s, '')
          .split(' ')
        return Number(parent) === process.pid
          ? [readFileSync(`/proc/${name}/cmdline`, 'utf8').replaceAll('\0', ' ')]
          : []
      } catch {
        return []
      }
    })
