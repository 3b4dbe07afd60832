import { ProblemError } from './problem'

/** Refuses where measuring did not begin, since something is being measured already. */
export function requireBegun(hasBegun: boolean): void {
  if (!hasBegun)
    throw new ProblemError({
      status: 409,
      title: 'Something is being measured already',
      detail: 'Wait for it, or stop it first: two would measure each other.',
    })
}
