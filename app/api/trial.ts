import type { Listening, OpenMinutes } from '@green-mantle/core/arrival'
import type { PracticeLineName } from '@green-mantle/core/network'
import type { CanvasName } from '@green-mantle/core/show'
import type { TrialResult } from '@green-mantle/core/trial'
import { ask, withJson } from './ask'

/** How a trial is run. */
export interface TrialChoices {
  seconds: number
  line: PracticeLineName | null
  /** The address of a host of one's own that sends over RTMP go to; null for the listeners here. */
  ownHost: string | null
  /** The file that each canvas shows; null for the moving test picture. */
  clips: Record<CanvasName, string | null>
}

export interface TrialAnswer {
  /** What has to be installed first, in words; null where nothing has. */
  missing: string | null
  state: {
    going: boolean
    stage: string
    elapsedSeconds: number
    seconds: number
    problem: string | null
  } | null
  result: TrialResult | null
}

const of = (showId: string, what: string): string => `/shows/${showId}/${what}`

export async function fetchListening(showId: string): Promise<Listening | null> {
  const answer = (await (await ask(of(showId, 'listening'))).json()) as {
    listening: Listening | null
  }
  return answer.listening
}
/** Listens to what the show sends as it is saved; asked again, follows what has changed. */
export async function beginListening(showId: string): Promise<void> {
  await ask(of(showId, 'listening'), { method: 'POST' })
}
export async function endListening(showId: string): Promise<void> {
  await ask(of(showId, 'listening'), { method: 'DELETE' })
}

/** Lets other computers of the local network send to the listeners, for a while. */
export async function openListening(showId: string, minutes: OpenMinutes): Promise<void> {
  await ask(of(showId, 'listening/network'), withJson('POST', { minutes }))
}
export async function closeListening(showId: string): Promise<void> {
  await ask(of(showId, 'listening/network'), { method: 'DELETE' })
}

export async function fetchTrial(showId: string): Promise<TrialAnswer> {
  return (await ask(of(showId, 'trial'))).json() as Promise<TrialAnswer>
}
export async function beginTrial(showId: string, options: TrialChoices): Promise<void> {
  await ask(of(showId, 'trial'), withJson('POST', options))
}
/** Resolves when nothing of it runs any more and what arrived is kept. */
export async function stopTrial(showId: string): Promise<void> {
  await ask(of(showId, 'trial'), { method: 'DELETE' })
}
