import type { Happening, SenderState, SendTarget } from '@green-mantle/core/night'
import { nanoid } from 'nanoid'
import type { Knex } from 'knex'
import { appendNightEvents } from '../database/nights/nightStore'
import { nightWatch } from '../night/watching'
import { Sender, type SenderOptions } from './sender'

/** Who is said to have done what the sender does. */
const senderName = 'sender'

interface Running {
  showId: string
  target: SendTarget
  sender: Sender
  settled: NightLogger['settled']
}

let running: Running | undefined
let lastTurn: Promise<unknown> = Promise.resolve()
/** One after the other, so that two windows do not both begin. */
function inTurn<Result>(work: () => Promise<Result>): Promise<Result> {
  const turn = lastTurn.then(work, work)
  lastTurn = turn.catch(() => {})
  return turn
}

interface NightLogger {
  log: (happening: Happening) => void
  /** Resolves when all that was said is kept, or cannot be. */
  settled: () => Promise<unknown>
}

/** What happens is kept in its order; where the database is away it is lost to the log, not to the send. */
function nightLogger(database: Knex, showId: string): NightLogger {
  let last: Promise<unknown> = Promise.resolve()
  return {
    log(happening) {
      const event = { id: nanoid(21), who: senderName, agoSeconds: 0, happening }
      last = last
        .then(() => appendNightEvents(database, showId, [event]))
        .then(() => nightWatch.nudge())
        .catch((error: unknown) => console.error('The sender could not keep what happened.', error))
    },
    settled: () => last,
  }
}

export interface BeginOptions extends Omit<SenderOptions, 'log'> {
  database: Knex
  showId: string
}

/** Begins to carry a show out; false where one is carried out already, which takes the computer. */
export const beginSender = ({
  database,
  showId,
  target,
  ...options
}: BeginOptions): Promise<boolean> =>
  inTurn(async () => {
    if (running) return false
    const { log, settled } = nightLogger(database, showId)
    running = { showId, target, settled, sender: await Sender.begin({ ...options, target, log }) }
    return true
  })

async function end({ sender, settled }: Running, isServerEnding = false): Promise<void> {
  await sender.stop({ measures: !isServerEnding })
  running = undefined
  // What it came to is there for the wrap-up.
  await settled()
}

/** Ends all sends of a show and its encoders; resolves when nothing of it runs any more. */
export const endSender = (showId: string): Promise<void> =>
  inTurn(async () => {
    if (running?.showId !== showId) return
    await end(running)
  })

/** Likewise of whatever show, when the server ends: nothing is measured any more. */
export const endAllSenders = (): Promise<void> =>
  inTurn(async () => {
    if (running) await end(running, true)
  })

/** The sender of a show; undefined where none runs. */
export const senderOf = (showId: string): Sender | undefined =>
  running?.showId === showId ? running.sender : undefined

/** What the sender does; null where none runs for the show. `elsewhere`: whether one runs for another show. */
export async function senderState(
  showId: string,
): Promise<{ target: SendTarget | null; state: SenderState | null; elsewhere: boolean }> {
  if (running?.showId !== showId)
    return { target: null, state: null, elsewhere: running !== undefined }
  return { target: running.target, state: await running.sender.state(), elsewhere: false }
}
