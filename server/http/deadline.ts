/** Thrown where something takes longer than it may. */
export class TookTooLong extends Error {}

/** What a work gives, or a failure where that takes too long; the work itself goes on unheard. */
export function withDeadline<Result>(work: Promise<Result>, seconds: number): Promise<Result> {
  return new Promise((resolve, reject) => {
    const deadline = setTimeout(
      () => reject(new TookTooLong(`It took longer than ${seconds} s.`)),
      seconds * 1000,
    )
    work.then(resolve, reject).finally(() => clearTimeout(deadline))
  })
}
