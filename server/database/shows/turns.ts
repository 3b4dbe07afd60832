/** Whoever is last in line for a show; it is kept only as long as somebody is. */
const lastOf = new Map<string, Promise<unknown>>()

/**
 * Runs works for the same show one after the other, in the order in which they came: however many
 * wait for one show, they hold a single connection, and the other shows go on.
 */
export function inTurn<Result>(showId: string, work: () => Promise<Result>): Promise<Result> {
  const before = lastOf.get(showId) ?? Promise.resolve()
  const own = before.then(work, work)
  const settled = own.catch(() => undefined)
  lastOf.set(showId, settled)
  void settled.then(() => {
    if (lastOf.get(showId) === settled) lastOf.delete(showId)
  })
  return own
}
