import type { Problem } from '@green-mantle/core/show'
import { isGivenUp } from '../database/transactions'
import { KeyFileProblem } from '../secrets/keyFile'
import { TookTooLong } from './deadline'

/** What went wrong, as RFC 9457 describes it; `detail` says what was kept and what to do. */
export interface ProblemDetails {
  status: number
  title: string
  detail: string
  /** Where in the request, place by place. */
  problems?: Problem[]
  [extension: string]: unknown
}

/** Thrown in a route to answer with a problem. */
export class ProblemError extends Error {
  constructor(
    readonly details: ProblemDetails,
    readonly headers: Record<string, string> = {},
  ) {
    super(details.title)
  }
}

const unreachableCodes = new Set([
  'ECONNREFUSED',
  'ECONNRESET',
  'EPIPE',
  'ENOENT',
  'ETIMEDOUT',
  'ER_ACCESS_DENIED_ERROR',
  'ER_CON_COUNT_ERROR',
  'ER_SERVER_SHUTDOWN',
  'ER_QUERY_INTERRUPTED',
  'PROTOCOL_CONNECTION_LOST',
])

function isDatabaseUnreachable(error: unknown): boolean {
  if (!(error instanceof Error)) return false
  const { code, name } = error as Error & { code?: string }
  return (
    unreachableCodes.has(code ?? '') ||
    name === 'KnexTimeoutError' ||
    /connection.*closed state|server closed the connection/i.test(error.message)
  )
}

const errnoOf = (error: unknown): number => (error as { errno?: number } | null)?.errno ?? 0
/** MariaDB ended a statement that took longer than it may (ER_STATEMENT_TIMEOUT). */
const statementTooLong = 1969

/** No room for the database (disk full, table full, error writing a file), or for a file of ours. */
const isDiskFull = (error: unknown): boolean =>
  [1021, 1114, 3].includes(errnoOf(error)) ||
  (error as NodeJS.ErrnoException | null)?.code === 'ENOSPC' ||
  /errno: 28|No space left on device/i.test((error as Error | null)?.message ?? '')

/** The problem for anything that a route may throw; what is not foreseen is logged and told without its insides. */
export function problemFrom(error: unknown): ProblemError {
  if (error instanceof ProblemError) return error
  if (isDatabaseUnreachable(error))
    return new ProblemError(
      {
        status: 503,
        title: 'The database does not answer',
        detail:
          'What was sent is not confirmed as saved; what is stored is unharmed. Try again in a moment.',
      },
      { 'retry-after': '2' },
    )
  if (error instanceof TookTooLong || errnoOf(error) === statementTooLong)
    return new ProblemError(
      {
        status: 503,
        title: 'The answer took too long',
        detail:
          'What was sent is not confirmed as saved; what is stored is unharmed. Try again in a moment.',
      },
      { 'retry-after': '5' },
    )
  if (isDiskFull(error))
    return new ProblemError(
      {
        status: 507,
        title: 'The disk is full',
        detail:
          'Nothing of this was saved; what is stored is unharmed. Make room and try again, nothing else has to be done.',
      },
      { 'retry-after': '10' },
    )
  if (error instanceof KeyFileProblem)
    return new ProblemError({
      status: 503,
      title: 'The key file of this installation can’t be used',
      detail: `${error.message} Shows and lines are not affected.`,
    })
  if (isGivenUp(error))
    return new ProblemError(
      {
        status: 503,
        title: 'Too many are saving at once',
        detail: 'Nothing of this was saved. Try again in a moment.',
      },
      { 'retry-after': '1' },
    )
  console.error('A request failed:', error)
  return new ProblemError({
    status: 500,
    title: 'Something went wrong on the server',
    detail: 'Nothing was saved. The server log says more.',
  })
}
