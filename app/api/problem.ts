/** A refusal by the server, as RFC 9457 describes it, or `status` 0 where the server did not answer at all. */
export class ApiProblem extends Error {
  constructor(
    readonly status: number,
    readonly title: string,
    readonly detail: string,
    readonly extensions: Record<string, unknown> = {},
  ) {
    super(`${title}. ${detail}`)
  }

  /** Whether the same request may go through later. */
  get isPassing(): boolean {
    return this.status === 0 || this.status === 503
  }
}

/** What went wrong, for a person, from anything that was thrown. */
export function wordsFor(error: unknown): string {
  if (error instanceof Error) return error.message
  return String(error)
}
