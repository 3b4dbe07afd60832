import type { Knex } from 'knex'
import { checkRoom } from './room'

/** MariaDB gave one of two up so that the other can go on; or a lock was not given in time. */
const givenUp = new Set([1213, 1205])
const maxTries = 5
const pauseMilliseconds = 20

export const isGivenUp = (error: unknown): boolean =>
  givenUp.has((error as { errno?: number } | null)?.errno ?? 0)

const pause = (milliseconds: number): Promise<void> =>
  new Promise((resolve) => setTimeout(resolve, milliseconds))

/**
 * Does what is done whole or not at all, and does it again where the database gave it up for another's
 * sake. After some tries the database's error is thrown, as a passing one.
 */
export async function againWhereGivenUp<Result>(work: () => Promise<Result>): Promise<Result> {
  for (let tries = 1; ; tries += 1) {
    try {
      return await work()
    } catch (error) {
      if (!isGivenUp(error) || tries >= maxTries) throw error
      // Apart, so that the same two do not meet again.
      await pause(pauseMilliseconds * tries * (0.5 + Math.random()))
    }
  }
}

/**
 * Runs a transaction, and again where the database gave it up: nothing of it was done then. Where
 * `addedBytes` more would fill its disk, it is not begun.
 */
export async function inTransaction<Result>(
  database: Knex,
  work: (transaction: Knex.Transaction) => Promise<Result>,
  addedBytes = 0,
): Promise<Result> {
  await checkRoom(addedBytes)
  return againWhereGivenUp(() => database.transaction(work))
}
