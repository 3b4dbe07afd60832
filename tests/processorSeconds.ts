import { appendFileSync, readFileSync } from 'node:fs'
import { isMainThread } from 'node:worker_threads'
import { familyOf } from './database/processFamily'

const ticksPerSecond = 100

/** From the fields of proc(5): what it used itself, and what its children did that it has waited for. */
function secondsIn(statFile: string): number {
  const fields = readFileSync(statFile, 'utf8').split(') ')[1]!.split(' ').map(Number)
  return fields.slice(11, 15).reduce((sum, ticks) => sum + ticks, 0) / ticksPerSecond
}

/** What this process, or this thread of one, has used of the processor so far. */
export const ownSeconds = (): number =>
  secondsIn(`/proc/${isMainThread ? 'self' : 'thread-self'}/stat`)

/** The same with all that it has started and that still runs. */
export const familySeconds = (): number =>
  familyOf(process.pid).reduce((sum, pid) => {
    try {
      return sum + secondsIn(`/proc/${pid}/stat`)
    } catch {
      return sum
    }
  }, 0)

/** What a file of tests, or a part of one, has used; the script that runs everything reads it. */
export function noteCost(file: string, seconds: number): void {
  const costs = process.env.GREEN_MANTLE_TEST_COSTS
  if (costs) appendFileSync(costs, `${JSON.stringify({ file, seconds })}\n`)
}
