import type { NightOrder, OrderedTask } from './nightOrder'
import type { NightState } from './nightState'
import { type SendStage, sendStages } from './task'

type Done = (task: OrderedTask) => boolean

/** What has to be done before a task, whoever does it. */
export const hardWaits = ({ waitsFor }: Pick<OrderedTask, 'waitsFor'>): string[] =>
  waitsFor.flatMap(({ id, isSameHands }) => (isSameHands ? [] : [id]))

/** Whether a task is ticked, or known to be done. */
export const isDone =
  (state: Pick<NightState, 'ticks'>, known: ReadonlySet<string>): Done =>
  ({ id }) =>
    state.ticks.has(id) || known.has(id)

/** The stages that a destination goes through, each with whether its tasks are done; a stage without a task is as good as the one before. */
export function stagesOf(
  destinationId: string,
  { tasks }: Pick<NightOrder, 'tasks'>,
  done: Done,
): { stage: SendStage; isReached: boolean; isAsked: boolean }[] {
  const own = tasks.filter((task) => task.destinationId === destinationId && task.stage !== null)
  return sendStages.map((stage) => {
    const asked = own.filter((task) => task.stage === stage)
    // Pressing start makes it live; seeing it as a viewer does not make it more so.
    const isReached = stage === 'live' ? asked.some(done) : asked.every(done) && asked.length > 0
    return { stage, isReached, isAsked: asked.length > 0 }
  })
}

/** The last stage that a destination has reached; null before the first. */
export function stageOf(
  destinationId: string,
  order: Pick<NightOrder, 'tasks'>,
  done: Done,
): SendStage | null {
  return stagesOf(destinationId, order, done).findLast(({ isReached }) => isReached)?.stage ?? null
}

/**
 * What a task comes too early for, in words, with what to do; null where it may be done. It can be
 * done all the same: the person may know better.
 */
export function outOfOrder(
  task: OrderedTask,
  { tasks }: Pick<NightOrder, 'tasks'>,
  done: Done,
): string | null {
  const missing = tasks.filter((other) => !done(other) && hardWaits(task).includes(other.id))
  const [first] = missing
  if (!first) return null
  const others = missing.length > 1 ? `, and ${missing.length - 1} more` : ''
  if (task.id.startsWith('stop-') && first.id.startsWith('end-'))
    return `Its page has not been ended yet: viewers would see a frozen picture. First: ${first.title}.`
  if (task.stage === 'live' && first.stage === 'arrived')
    return `Nothing has been seen to arrive yet, and arriving comes before live. First: ${first.title}.`
  if (task.stage === 'sending' && first.stage === 'key')
    return `Without its key it is refused. First: ${first.title}.`
  return `First: ${first.title}${others}.`
}

/** What to do where a destination was stopped here before it was ended on its page; null where it was not. */
export function frozenPicture(
  destinationId: string,
  { tasks }: Pick<NightOrder, 'tasks'>,
  done: Done,
): string | null {
  const end = tasks.find(({ id }) => id === `end-${destinationId}`)
  const stop = tasks.find(({ id }) => id === `stop-${destinationId}`)
  return end && stop && done(stop) && !done(end)
    ? 'Stopped here, not ended there: its viewers see a frozen picture. End it on its page now.'
    : null
}
