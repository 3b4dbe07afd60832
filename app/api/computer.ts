import type { MeasuringPass } from '@green-mantle/core/measured'
import type { Computer } from '@green-mantle/core/show'
import { ask, withJson } from './ask'
import type { StoredClip } from './pictures'

export interface OwnComputer {
  installation: string
  /** null until it was measured. */
  computer: Computer | null
  /** Where recordings are kept, now; null where that could not be read. */
  freeDiskGigabytes: number | null
  /** What has to be installed first, in words; null where nothing has. */
  missing: string | null
  measuring: {
    going: boolean
    report: { doing: string; done: number; of: number; computer: Computer } | null
    problem: string | null
  }
}

export async function fetchOwnComputer(): Promise<OwnComputer> {
  return (await ask('/computer')).json() as Promise<OwnComputer>
}

/** By a clip of one's own, or by a made picture. */
export async function beginMeasuringComputer(
  pass: MeasuringPass,
  clip: StoredClip | null,
): Promise<void> {
  await ask('/computer/measuring', withJson('POST', { pass, clip }))
}

/** Resolves when what was known by then is kept. */
export async function stopMeasuringComputer(): Promise<void> {
  await ask('/computer/measuring', { method: 'DELETE' })
}
