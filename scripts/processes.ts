import { readdirSync, readFileSync } from 'node:fs'

export interface ProcessFacts {
  parent: number
  group: number
  /** Tells a process from a later one of the same number. */
  startedAt: string
}

/** What the system knows of a process that runs; null where there is none, or it only waits to be buried. */
export function processFacts(pid: number): ProcessFacts | null {
  let text: string
  try {
    text = readFileSync(`/proc/${pid}/stat`, 'utf8')
  } catch {
    return null
  }
  // The name, which stands in brackets, may hold anything.
  const fields = text.slice(text.lastIndexOf(')') + 2).split(' ')
  const [state, parent, group] = fields
  if (state === 'Z' || state === 'X') return null
  return { parent: Number(parent), group: Number(group), startedAt: fields[19] ?? '' }
}

/** A process that was started with one of these arguments; null where none runs. */
export function runningWith(wanted: readonly string[]): number | null {
  for (const name of readdirSync('/proc')) {
    const pid = Number(name)
    if (!(pid > 0)) continue
    try {
      const args = readFileSync(`/proc/${name}/cmdline`, 'utf8').split('\0')
      if (args.some((argument) => wanted.includes(argument)) && processFacts(pid)) return pid
    } catch {
      // It has ended meanwhile.
    }
  }
  return null
}

/** Those of a process's forebears that were started with it, as a command and the shell it runs in: the ones of its own group. */
export function startersOf(pid: number): { pid: number; startedAt: string }[] {
  const starters: { pid: number; startedAt: string }[] = []
  const own = processFacts(pid)
  for (let at = own?.parent ?? 0; at > 1;) {
    const facts = processFacts(at)
    if (!facts || facts.group !== own?.group) break
    starters.push({ pid: at, startedAt: facts.startedAt })
    at = facts.parent
  }
  return starters
}
