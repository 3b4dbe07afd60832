import type { CanvasInput, SenderState, SendTarget, StandInNow } from '@green-mantle/core/night'
import type { CanvasName } from '@green-mantle/core/show'
import { ask, withJson } from './ask'

export interface SenderAnswer {
  /** What has to be installed first, in words; null where nothing has. */
  missing: string | null
  /** null where nothing of this show is sent from here. */
  target: SendTarget | null
  state: SenderState | null
  /** Whether another show is being sent from here. */
  elsewhere: boolean
}

export async function fetchSender(showId: string): Promise<SenderAnswer> {
  return (await ask(`/shows/${showId}/sender`)).json() as Promise<SenderAnswer>
}
/** Begins every encode; resolves when they run. Nothing is sent before `startSend`. */
export async function beginSender(
  showId: string,
  options: { target: SendTarget; inputs: Record<CanvasName, CanvasInput> },
): Promise<void> {
  await ask(`/shows/${showId}/sender`, withJson('POST', options))
}
/** Resolves when nothing of it runs any more and recordings are closed. */
export async function endSender(showId: string): Promise<void> {
  await ask(`/shows/${showId}/sender`, { method: 'DELETE' })
}
export async function startSend(showId: string, destinationId: string): Promise<void> {
  await ask(`/shows/${showId}/sender/${destinationId}`, { method: 'POST' })
}
export async function stopSend(showId: string, destinationId: string): Promise<void> {
  await ask(`/shows/${showId}/sender/${destinationId}`, { method: 'DELETE' })
}

/** Keeps the last seconds of every canvas as files on the computer that sends. */
export async function keepLookBack(showId: string): Promise<void> {
  await ask(`/shows/${showId}/sender/look-back`, { method: 'POST' })
}

/** Cuts the stretches that were marked out of the recordings; the files, and what could not be cut. */
export async function cutRecordings(
  showId: string,
): Promise<{ files: string[]; problems: string[] }> {
  const answer = await ask(`/shows/${showId}/recordings/cuts`, { method: 'POST' })
  return answer.json() as Promise<{ files: string[]; problems: string[] }>
}

export async function fetchStandIns(showId: string): Promise<StandInNow[]> {
  const answer = await ask(`/shows/${showId}/stand-ins`)
  return ((await answer.json()) as { standIns: StandInNow[] }).standIns
}
/** Lets a platform stand in for every destination of the show as it is saved. */
export async function beginStandIns(showId: string): Promise<void> {
  await ask(`/shows/${showId}/stand-ins`, { method: 'POST' })
}
export const standInPage = (showId: string, destinationId: string): string =>
  `/stand-ins/platforms/${showId}/${destinationId}`
