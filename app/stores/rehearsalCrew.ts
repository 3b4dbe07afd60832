import { ref } from 'vue'
import { wordsFor } from '~/api/problem'
import { newRehearsalWorker } from '~/workers/workers'

export type RehearsalCrew = ReturnType<typeof newRehearsalWorker>[]
/** What many nights are run for. */
export type RehearsalTask = 'nights' | 'headroom' | 'remedies' | 'together'

/** As many as there are cores, less one for the page where that leaves two. */
const crewSize = (): number => {
  const cores = navigator.hardwareConcurrency || 2
  return Math.max(1, Math.min(4, cores > 2 ? cores - 1 : cores))
}

/** Workers that share out one task after the other; `keyNow` tells what show it is for. */
export function newRehearsalCrew(keyNow: () => string) {
  const running = ref<RehearsalTask>()
  const problem = ref('')
  let crew: RehearsalCrew = []

  /** A worker that was ended never answers, so that whoever waits for it has to be told. */
  let tellStopped = (): void => {}
  /** What it runs for. */
  let runningKey = ''

  function stop(): void {
    for (const { end } of crew) end()
    crew = []
    running.value = undefined
    tellStopped()
  }

  /** Shares pieces of work out among workers; stops early where `stop` was called meanwhile. */
  async function shareOut<Piece>(
    what: RehearsalTask,
    pieces: readonly Piece[],
    work: (member: RehearsalCrew[number], piece: Piece) => Promise<void>,
  ): Promise<boolean> {
    stop()
    const own = Array.from({ length: crewSize() }, newRehearsalWorker)
    crew = own
    running.value = what
    runningKey = keyNow()
    problem.value = ''
    const queue = [...pieces]
    const stopped = new Promise<void>((resolve) => {
      tellStopped = resolve
    })
    const allDone = async (): Promise<void> => {
      await Promise.all(
        own.map(async (member) => {
          for (let piece = queue.shift(); piece !== undefined; piece = queue.shift()) {
            if (crew !== own) return
            await work(member, piece)
          }
        }),
      )
    }
    try {
      await Promise.race([allDone(), stopped])
    } catch (error) {
      problem.value = wordsFor(error)
    }
    const isDone = crew === own && problem.value === ''
    if (crew === own) stop()
    return isDone
  }

  return { running, problem, stop, shareOut, isOutOfDate: () => runningKey !== keyNow() }
}
