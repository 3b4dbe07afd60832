import { missingProgram, systemPrograms } from '../programs/systemPrograms'
import { ProblemError } from './problem'

/** Answers with the package to install where the encoder program is not there. */
export function requireEncoder(title: string): void {
  const detail = missingProgram(systemPrograms.encoder)
  if (detail) throw new ProblemError({ status: 503, title, detail })
}
