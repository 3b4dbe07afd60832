import type { MeasuredPoint, OwnPicture } from '@green-mantle/core/show'
import { ask, withJson } from './ask'

export interface OwnPictures {
  /** Those that were measured here, newest first. */
  pictures: { id: string; picture: OwnPicture }[]
  /** What has to be installed first, in words; null where nothing has. */
  missing: string | null
  measuring: {
    going: boolean
    report: { doing: string; done: number; of: number; points: MeasuredPoint[] } | null
    problem: string | null
  }
}

export async function fetchOwnPictures(): Promise<OwnPictures> {
  return (await ask('/pictures')).json() as Promise<OwnPictures>
}

export interface StoredClip {
  fileId: string
  name: string
}

/** Begins to measure a clip that is stored, or two as one picture. */
export async function beginMeasuringPicture(clips: readonly StoredClip[]): Promise<void> {
  await ask('/pictures/measuring', withJson('POST', { clips }))
}

/** Resolves when what was known by then is kept. */
export async function stopMeasuringPicture(): Promise<void> {
  await ask('/pictures/measuring', { method: 'DELETE' })
}

/** Takes one from the list; shows that use it keep theirs. */
export async function removeOwnPicture(id: string): Promise<void> {
  await ask(`/pictures/${encodeURIComponent(id)}`, { method: 'DELETE' })
}
