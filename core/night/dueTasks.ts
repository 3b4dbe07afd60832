import { nightPhases } from '../show'
import { inOrder } from './criticalPath'
import type { NightOrder, OrderedTask } from './nightOrder'
import type { NightState } from './nightState'
import { hardWaits } from './stages'

export interface DueTasks {
  /** To be done now, the first of them first. */
  now: OrderedTask[]
  /** The next one whose time has not come. */
  next: OrderedTask | null
  /** Not done although their time is over, and not among those for now. */
  late: OrderedTask[]
}

const phaseOf = (task: OrderedTask): number => nightPhases.indexOf(task.phase)

/**
 * What is due, `nowSeconds` from the start of the show. Of what may be done now, what brings a send
 * on comes first, whatever else is late; then what belongs to the latest phase that has begun.
 */
export function dueTasks(
  { tasks }: Pick<NightOrder, 'tasks'>,
  done: (task: OrderedTask) => boolean,
  nowSeconds: number,
): DueTasks {
  const open = tasks.filter((task) => !done(task))
  const waiting = new Set(open.map(({ id }) => id))
  const ready = open.filter((task) => !hardWaits(task).some((id) => waiting.has(id)))
  const dueNow = ready.filter(({ atSeconds }) => atSeconds <= nowSeconds)
  const phase = Math.max(-1, ...dueNow.map(phaseOf))
  const brings = (task: OrderedTask): number =>
    task.stage !== null && task.kind !== 'check' ? 0 : 1
  const now = dueNow
    .filter((task) => phaseOf(task) === phase || brings(task) === 0)
    .sort((a, b) => brings(a) - brings(b) || a.atSeconds - b.atSeconds)
  const [next] = open
    .filter(({ atSeconds }) => atSeconds > nowSeconds)
    .sort((a, b) => a.atSeconds - b.atSeconds)
  return {
    now,
    next: next ?? null,
    late: open.filter((task) => task.atSeconds < nowSeconds - 60 && !now.includes(task)),
  }
}

/**
 * When each task that is not done will begin, as things stand: not before now, and not before what it
 * waits for is done. What slips moves what waits.
 */
export function expectedStarts(
  { tasks }: Pick<NightOrder, 'tasks'>,
  { ticks }: Pick<NightState, 'ticks'>,
  known: ReadonlySet<string>,
  { nowSeconds, startsAt }: { nowSeconds: number; startsAt: Date },
): Map<string, number> {
  const starts = new Map<string, number>()
  const finished = new Map<string, number>()
  for (const { id, atSeconds, durationSeconds, waitsFor } of inOrder(tasks)) {
    const tick = ticks.get(id)
    if (tick || known.has(id)) {
      const at = tick ? (Date.parse(tick.at) - startsAt.getTime()) / 1000 : nowSeconds
      finished.set(id, Math.min(at, nowSeconds))
      continue
    }
    const possible = waitsFor.flatMap(({ id: before, lagSeconds }) => {
      const at = finished.get(before)
      return at === undefined ? [] : [at + lagSeconds]
    })
    const start = Math.max(atSeconds, nowSeconds, ...possible)
    starts.set(id, start)
    finished.set(id, start + durationSeconds)
  }
  return starts
}

/** How late the show will begin, as things stand; 0 where it begins in time or has begun. */
export function startSlipsSeconds(expected: ReadonlyMap<string, number>): number {
  return Math.max(0, expected.get('on-air') ?? 0)
}
