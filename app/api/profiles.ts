import type { Profile } from '@green-mantle/core/show'
import { ask, withJson } from './ask'

export async function fetchProfiles(): Promise<Profile[]> {
  return (await ask('/profiles')).json() as Promise<Profile[]>
}

export async function saveProfile(profile: Profile): Promise<void> {
  await ask('/profiles', withJson('POST', profile))
}

export async function removeProfile(id: string): Promise<void> {
  await ask(`/profiles/${id}`, { method: 'DELETE' })
}
