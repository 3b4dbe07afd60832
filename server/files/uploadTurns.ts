import { ProblemError } from '../http/problem'

/** So many uploads are taken at once; as many more may wait. */
const limits = { atOnce: 3, waiting: 12 } as const

let underWay = 0
const waiting: (() => void)[] = []

/** Runs the taking of an upload when it is its turn; whoever would be one too many is told at once. */
export async function inUploadTurn<Result>(take: () => Promise<Result>): Promise<Result> {
  if (underWay >= limits.atOnce) {
    if (waiting.length >= limits.waiting)
      throw new ProblemError(
        {
          status: 503,
          title: 'Too many files are on their way',
          detail: 'Nothing of this one was stored. Send it again in a moment.',
        },
        { 'retry-after': '5' },
      )
    // Whoever ends hands on its place.
    await new Promise<void>((resolve) => waiting.push(resolve))
  } else underWay += 1
  try {
    return await take()
  } finally {
    const next = waiting.shift()
    if (next) next()
    else underWay -= 1
  }
}
