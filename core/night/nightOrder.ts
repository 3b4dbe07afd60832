import { type NightPhase, nightPhases, type Show, type TaskChange } from '../show'
import { criticalPath, inOrder, latestStarts } from './criticalPath'
import { showTasks } from './showTasks'
import { task } from './sendTasks'
import type { Task } from './task'

/** A task in the order of the night. */
export interface OrderedTask extends Task {
  /** When to begin it, in seconds from the start of the show. */
  atSeconds: number
  /** Whether a person set that time. */
  isMoved: boolean
  isOwn: boolean
  /** How much later it could begin and the show still start in time; null from the start on. */
  slackSeconds: number | null
  /** What has to be done after it but stands before it, since times were set by hand. */
  tooLateFor: string[]
}

export interface NightOrder {
  tasks: OrderedTask[]
  /** Made from the show, and left out by a person. */
  leftOut: Task[]
  /** The longest chain before the start, first to last, and how long it takes. */
  chain: OrderedTask[]
  chainSeconds: number
}

const isBeforeStart = (phase: NightPhase): boolean =>
  phase === 'days before' || phase === 'before' || phase === 'going up'

/** The tasks of a show as people changed them; what is left out is passed over by what waited for it. */
function changedTasks(show: Show): { kept: Task[]; leftOut: Task[]; own: Set<string> } {
  const changes = new Map(show.runSheet.changes.map((change) => [change.id, change]))
  const people = new Set(show.runSheet.people.map(({ id }) => id))
  const made = showTasks(show)
  const taken = new Set(made.map(({ id }) => id))
  const ownTasks = show.runSheet.ownTasks
    .filter(({ id }) => !taken.has(id))
    .map(({ atSeconds, ...own }) =>
      task({
        ...own,
        canvas: show.destinations.find(({ id }) => id === own.destinationId)?.canvas ?? null,
        due: { rule: 'at', seconds: atSeconds },
      }),
    )
  const leftOutIds = new Set(made.filter(({ id }) => changes.get(id)?.leftOut).map(({ id }) => id))
  const madeById = new Map(made.map((each) => [each.id, each]))
  /** Through what is left out to what that waited for. */
  const waitsOf = (each: Task, through = new Set<string>()): Task['waitsFor'] =>
    each.waitsFor.flatMap((waiting) => {
      if (!leftOutIds.has(waiting.id)) return [waiting]
      const before = madeById.get(waiting.id)
      if (!before || through.has(waiting.id)) return []
      return waitsOf(before, new Set([...through, waiting.id])).map(({ id, lagSeconds }) => ({
        id,
        lagSeconds: lagSeconds + waiting.lagSeconds,
      }))
    })
  const changed = (each: Task): Task => {
    const change: TaskChange | undefined = changes.get(each.id)
    const personId = change?.personId ?? each.personId
    return {
      ...each,
      title: change?.title ?? each.title,
      waitsFor: waitsOf(each),
      personId: personId !== null && people.has(personId) ? personId : null,
      due: change?.atSeconds == null ? each.due : { rule: 'at', seconds: change.atSeconds },
    }
  }
  return {
    kept: [...made.filter(({ id }) => !leftOutIds.has(id)), ...ownTasks].map(changed),
    leftOut: made.filter(({ id }) => leftOutIds.has(id)),
    own: new Set(ownTasks.map(({ id }) => id)),
  }
}

/**
 * Nobody does two things at once: what is done by the same person while going up follows one after
 * the other, in the order in which it could be begun soonest. What nobody is named for is taken to be
 * done by one person too.
 */
function byOnesHands(tasks: readonly Task[]): Task[] {
  const up = tasks.filter(({ phase, due }) => phase === 'going up' && due.rule === 'latest')
  const { times } = criticalPath(up)
  const soonest = ({ id }: Task): number => times.get(id)?.earliestStartSeconds ?? 0
  const last = new Map<string | null, string>()
  const before = new Map<string, string>()
  // In order first, so that of what could begin at once nothing comes before what it waits for.
  for (const { id, personId } of inOrder(up).sort((a, b) => soonest(a) - soonest(b))) {
    const previous = last.get(personId)
    if (previous !== undefined) before.set(id, previous)
    last.set(personId, id)
  }
  return tasks.map((each) => {
    const previous = before.get(each.id)
    if (previous === undefined || each.waitsFor.some(({ id }) => id === previous)) return each
    return {
      ...each,
      waitsFor: [...each.waitsFor, { id: previous, lagSeconds: 0, isSameHands: true as const }],
    }
  })
}

/** When each task begins: before the start as late as may be, from then on as soon as may be. */
function plannedStarts(ordered: readonly Task[], marginSeconds: number): Map<string, number> {
  const byId = new Map(ordered.map((each) => [each.id, each]))
  const up = ordered.filter(({ phase }) => isBeforeStart(phase))
  const starts = latestStarts(up, (id) => {
    const { due, durationSeconds, phase } = byId.get(id) as Task
    const byStart = -marginSeconds
    if (due.rule === 'at') return due.seconds + durationSeconds
    const own = due.seconds < 0 ? due.seconds + durationSeconds : byStart
    return phase === 'going up' ? Math.min(byStart, own) : own
  })
  // Where a person set a time it stands, whatever waits for it.
  for (const { id, due } of up) if (due.rule === 'at') starts.set(id, due.seconds)
  for (const { id, phase, due, waitsFor } of ordered) {
    if (isBeforeStart(phase)) continue
    const possible = waitsFor.flatMap(({ id: before, lagSeconds }) => {
      const begun = starts.get(before)
      return begun === undefined
        ? []
        : [begun + (byId.get(before) as Task).durationSeconds + lagSeconds]
    })
    starts.set(id, due.rule === 'at' ? due.seconds : Math.max(due.seconds, ...possible))
  }
  return starts
}

/** The order of a show's night: what is done, when, and what waits for what. */
export function nightOrder(show: Show): NightOrder {
  const { kept, leftOut, own } = changedTasks(show)
  const ordered = inOrder(byOnesHands(kept))
  const starts = plannedStarts(ordered, show.runSheet.marginMinutes * 60)
  const up = ordered.filter(({ phase }) => phase === 'going up')
  const path = criticalPath(up)
  const finishOf = (each: Task): number => (starts.get(each.id) as number) + each.durationSeconds
  const tooLate = new Map<string, string[]>()
  const keptById = new Map(ordered.map((each) => [each.id, each]))
  for (const each of ordered)
    for (const { id, lagSeconds, isSameHands } of each.waitsFor) {
      const before = keptById.get(id)
      if (before && !isSameHands && finishOf(before) + lagSeconds > (starts.get(each.id) as number))
        tooLate.set(id, [...(tooLate.get(id) ?? []), each.title])
    }
  const position = new Map(ordered.map(({ id }, index) => [id, index]))
  const tasks = ordered
    .map((each): OrderedTask => ({
      ...each,
      atSeconds: starts.get(each.id) as number,
      isMoved: each.due.rule === 'at' && !own.has(each.id) && isMovedByHand(show, each.id),
      isOwn: own.has(each.id),
      slackSeconds: path.times.get(each.id)?.slackSeconds ?? null,
      tooLateFor: tooLate.get(each.id) ?? [],
    }))
    .sort(
      (a, b) =>
        nightPhases.indexOf(a.phase) - nightPhases.indexOf(b.phase) ||
        a.atSeconds - b.atSeconds ||
        (position.get(a.id) as number) - (position.get(b.id) as number),
    )
  const byId = new Map(tasks.map((each) => [each.id, each]))
  return {
    tasks,
    leftOut,
    chain: path.chain.map((id) => byId.get(id) as OrderedTask),
    chainSeconds: path.lengthSeconds,
  }
}

const isMovedByHand = ({ runSheet }: Show, id: string): boolean =>
  runSheet.changes.some((change) => change.id === id && change.atSeconds !== null)

export interface OrderChanges {
  added: string[]
  gone: string[]
  /** Tasks that stand at another time than when they were last looked through. */
  moved: { title: string; bySeconds: number }[]
}

/** What of the order is new, gone or moved since it was last looked through; null before it was. */
export function orderChanges(show: Show, { tasks }: NightOrder): OrderChanges | null {
  const { seen } = show.runSheet
  if (seen === null) return null
  const before = new Map(seen.map((each) => [each.id, each]))
  const present = new Set(tasks.map(({ id }) => id))
  return {
    added: tasks.filter(({ id }) => !before.has(id)).map(({ title }) => title),
    gone: seen.filter(({ id }) => !present.has(id)).map(({ title }) => title),
    moved: tasks.flatMap(({ id, title, atSeconds }) => {
      const then = before.get(id)
      return then && Math.abs(then.atSeconds - atSeconds) >= 1
        ? [{ title, bySeconds: atSeconds - then.atSeconds }]
        : []
    }),
  }
}

/** The order as it is looked through now, to be kept. */
export const seenOrder = ({ tasks }: NightOrder): NonNullable<Show['runSheet']['seen']> =>
  tasks.map(({ id, title, atSeconds }) => ({ id, title, atSeconds }))
