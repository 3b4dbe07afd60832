import { readFileSync } from 'node:fs'
import { processFacts } from './processes'

/** The names that package managers give their processes while they run a script. */
const packageManager = /(^|\/)(npm|npx|pnpm|yarn|bun)\b/

const isPackageManager = (pid: number): boolean => {
  try {
    return readFileSync(`/proc/${pid}/cmdline`, 'utf8')
      .split('\0')
      .some((argument) => packageManager.test(argument))
  } catch {
    return false
  }
}

/** Everybody that a process comes from, the first process of the system included. */
function* forebearsOf(pid: number): Generator<number> {
  for (let at = processFacts(pid)?.parent ?? 0; at > 0; at = processFacts(at)?.parent ?? 0) yield at
}

/**
 * Throws, in words, where a package manager began this script of its and is gone: killed while the packages
 * were installed, its shell would go on to here and start what nobody waits for.
 */
export function requireStillWanted(script: 'demo' | 'dev'): void {
  if (process.env.npm_lifecycle_event !== script) return
  if ([...forebearsOf(process.pid)].some(isPackageManager)) return
  throw new Error('What started this is gone, so nothing is started.')
}
