import type { KeyRecord } from '@green-mantle/core/destinations'
import { ask, withJson } from './ask'

const at = (showId: string, destinationId: string): string =>
  `/shows/${showId}/keys/${destinationId}`

export async function fetchKeys(showId: string): Promise<KeyRecord[]> {
  return (await ask(`/shows/${showId}/keys`)).json() as Promise<KeyRecord[]>
}

export async function storeKey(showId: string, destinationId: string, key: string): Promise<void> {
  await ask(at(showId, destinationId), withJson('PUT', { key }))
}

/** The key itself, asked for on purpose. */
export async function revealKey(showId: string, destinationId: string): Promise<string> {
  const response = await ask(`${at(showId, destinationId)}/reveal`, { method: 'POST' })
  return ((await response.json()) as { key: string }).key
}

export async function forgetKey(showId: string, destinationId: string): Promise<void> {
  await ask(at(showId, destinationId), { method: 'DELETE' })
}

export async function restoreKey(showId: string, destinationId: string): Promise<void> {
  await ask(`${at(showId, destinationId)}/restore`, { method: 'POST' })
}
