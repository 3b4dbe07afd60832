import { readFileSync } from 'node:fs'
import { availableParallelism } from 'node:os'
import { performance } from 'node:perf_hooks'

/** Clock ticks a second in which Linux counts a process's time; the same on every system in use. */
const ticksPerSecond = 100

const statOf = (pid: number | undefined): string | null => {
  try {
    return readFileSync(`/proc/${pid}/stat`, 'utf8')
  } catch {
    return null
  }
}

/**
 * Seconds of processor that a process has taken, all its threads together; null where it is gone. Read
 * at once, so that they belong to what is known at that moment.
 */
export function processorSeconds(pid: number | undefined): number | null {
  const stat = statOf(pid)
  // After the name, which may hold anything, in brackets: the 12th and 13th are its own time and the system's for it.
  const fields = stat?.slice(stat.lastIndexOf(')') + 2).split(' ')
  const ticks = Number(fields?.[11]) + Number(fields?.[12])
  return Number.isFinite(ticks) ? ticks / ticksPerSecond : null
}

/** The share of the whole processor that a process which begins now has taken when it is asked, 1 = all of it. */
export const processorShareOf = (pid: number | undefined): (() => number | null) =>
  shareSince(pid, 0)

/** Likewise of one that has been running, from now on. */
export function processorShareFromNow(pid: number | undefined): () => number | null {
  const before = processorSeconds(pid)
  return before === null ? () => null : shareSince(pid, before)
}

function shareSince(pid: number | undefined, before: number): () => number | null {
  const began = performance.now()
  return () => {
    const taken = processorSeconds(pid)
    const seconds = (performance.now() - began) / 1000
    return taken === null || seconds <= 0
      ? null
      : (taken - before) / seconds / availableParallelism()
  }
}
