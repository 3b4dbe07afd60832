import type { SenderState, SendTarget } from '@green-mantle/core/night'
import type { Knex } from 'knex'
import { forgetUnderWay, keepUnderWay } from '../database/nights/underWayStore'
import { appendNightEvents } from '../database/nights/nightStore'
import { nightWatch } from '../night/watching'
import { NightLogger } from './nightLogger'
import { Sender, type SenderOptions } from './sender'

interface Running {
  showId: string
  target: SendTarget
  sender: Sender
  logger: NightLogger
  noting: Noting
}

/** So long it is waited for what is still to be kept. */
const [waitsMilliseconds, waitsAtEndMilliseconds] = [5000, 3000]

let running: Running | undefined
let lastTurn: Promise<unknown> = Promise.resolve()
/** One after the other, so that two windows do not both begin. */
function inTurn<Result>(work: () => Promise<Result>): Promise<Result> {
  const turn = lastTurn.then(work, work)
  lastTurn = turn.catch(() => {})
  return turn
}

/** A server that is killed cannot say what it had under way: it is noted while it goes. */
const noteEveryMilliseconds = 3000

interface Noting {
  stop(): void
  forget(): Promise<void>
}

function notesUnderWay(database: Knex, showId: string, sender: Sender): Noting {
  let last: Promise<void> = Promise.resolve()
  let isNoting = false
  const note = (): void => {
    // With the database away each takes its time: the next one says it all.
    if (isNoting) return
    isNoting = true
    last = last
      .then(() => keepUnderWay(database, showId, sender.underWay()))
      .catch((error: unknown) => console.warn('What is under way cannot be noted now.', error))
      .finally(() => (isNoting = false))
  }
  note()
  const timer = setInterval(note, noteEveryMilliseconds)
  timer.unref()
  return {
    stop: () => clearInterval(timer),
    forget: () =>
      last
        .then(() => forgetUnderWay(database, showId))
        .catch((error: unknown) => console.warn('What was under way is still noted.', error)),
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
    const logger = new NightLogger(async (events) => {
      await appendNightEvents(database, showId, events)
      nightWatch.nudge()
    })
    const { log } = logger
    const sender = await Sender.begin({ ...options, target, log })
    running = { showId, target, logger, sender, noting: notesUnderWay(database, showId, sender) }
    return true
  })

async function end({ sender, logger, noting }: Running, isServerEnding = false): Promise<void> {
  noting.stop()
  await sender.stop({ measures: !isServerEnding })
  running = undefined
  // What it came to is there for the wrap-up; where the database is away, it comes when it is back.
  await logger.settled(isServerEnding ? waitsAtEndMilliseconds : waitsMilliseconds)
  await noting.forget()
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
