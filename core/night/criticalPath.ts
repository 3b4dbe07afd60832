import type { Waiting } from './task'

export interface Activity {
  id: string
  durationSeconds: number
  waitsFor: readonly Waiting[]
}

export interface ActivityTimes {
  earliestStartSeconds: number
  latestStartSeconds: number
  /** How much later it may begin without the end moving; 0 on the longest chain. */
  slackSeconds: number
}

export interface CriticalPath {
  /** How long everything takes where as much as may goes at once. */
  lengthSeconds: number
  times: ReadonlyMap<string, ActivityTimes>
  /** The longest chain, first to last. */
  chain: string[]
}

/**
 * Activities so that each comes after all that it waits for, and else in the order given. Waiting for
 * what is not there counts for nothing. Where activities wait for each other in a circle, the first of
 * them stands first, and that one wait is not kept.
 */
export function inOrder<Each extends Pick<Activity, 'id' | 'waitsFor'>>(
  activities: readonly Each[],
): Each[] {
  const byId = new Map(activities.map((activity) => [activity.id, activity]))
  const ordered: Each[] = []
  const state = new Map<string, 'visiting' | 'done'>()
  // A stack instead of recursion, so that a long chain is no deep one.
  for (const first of activities) {
    const stack = [{ activity: first, next: 0 }]
    while (stack.length > 0) {
      const top = stack.at(-1) as (typeof stack)[number]
      const { activity } = top
      if (top.next === 0) {
        if (state.has(activity.id)) {
          stack.pop()
          continue
        }
        state.set(activity.id, 'visiting')
      }
      const waiting = activity.waitsFor[top.next]
      top.next += 1
      if (waiting) {
        const before = byId.get(waiting.id)
        if (before && !state.has(before.id)) stack.push({ activity: before, next: 0 })
        continue
      }
      state.set(activity.id, 'done')
      ordered.push(activity)
      stack.pop()
    }
  }
  return ordered
}

/**
 * The critical path method (Kelley and Walker 1959), with a lag allowed on each wait: when each
 * activity can begin at the earliest and at the latest without the end moving.
 */
export function criticalPath(activities: readonly Activity[]): CriticalPath {
  const ordered = inOrder(activities)
  const earliest = new Map<string, number>()
  const reason = new Map<string, string>()
  const byId = new Map(activities.map((activity) => [activity.id, activity]))
  const finish = (id: string): number =>
    (earliest.get(id) ?? 0) + (byId.get(id)?.durationSeconds ?? 0)
  for (const { id, waitsFor } of ordered) {
    let start = 0
    for (const waiting of waitsFor) {
      if (!earliest.has(waiting.id)) continue
      const possible = finish(waiting.id) + waiting.lagSeconds
      if (possible < start || (possible === start && reason.has(id))) continue
      start = possible
      reason.set(id, waiting.id)
    }
    earliest.set(id, start)
  }
  const lengthSeconds = Math.max(0, ...ordered.map(({ id }) => finish(id)))
  const latest = latestStarts(ordered, () => lengthSeconds)
  const times = new Map(
    ordered.map(({ id }) => {
      const [earliestStartSeconds, latestStartSeconds] = [
        earliest.get(id) as number,
        latest.get(id) as number,
      ]
      return [
        id,
        {
          earliestStartSeconds,
          latestStartSeconds,
          slackSeconds: latestStartSeconds - earliestStartSeconds,
        },
      ]
    }),
  )
  const chain: string[] = []
  let last: string | undefined = ordered.find(({ id }) => finish(id) === lengthSeconds)?.id
  while (last !== undefined) {
    chain.unshift(last)
    last = reason.get(last)
  }
  return { lengthSeconds, times, chain }
}

/**
 * When each activity has to begin at the latest, worked backwards: so that it is done by its own
 * deadline and in time for all that waits for it. `activities` in order; deadlines are of the finish.
 */
export function latestStarts(
  activities: readonly Activity[],
  finishBySeconds: (id: string) => number,
): Map<string, number> {
  const latestFinish = new Map<string, number>()
  const starts = new Map<string, number>()
  for (const { id, durationSeconds, waitsFor } of activities.toReversed()) {
    const finish = Math.min(finishBySeconds(id), latestFinish.get(id) ?? Infinity)
    const start = finish - durationSeconds
    starts.set(id, start)
    for (const { id: before, lagSeconds } of waitsFor)
      // What is worked out already stands behind this one in a circle.
      if (!starts.has(before))
        latestFinish.set(before, Math.min(latestFinish.get(before) ?? Infinity, start - lagSeconds))
  }
  return starts
}
