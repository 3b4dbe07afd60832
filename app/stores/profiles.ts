import type { Profile } from '@green-mantle/core/show'
import { defineStore } from 'pinia'
import { ref, shallowRef } from 'vue'
import { wordsFor } from '~/api/problem'
import { fetchProfiles, removeProfile, saveProfile } from '~/api/profiles'

/** The destination profiles of this installation. */
export const useProfilesStore = defineStore('profiles', () => {
  const profiles = shallowRef<Profile[]>([])
  const problem = ref('')

  async function load(): Promise<void> {
    try {
      profiles.value = await fetchProfiles()
      problem.value = ''
    } catch (error) {
      problem.value = wordsFor(error)
    }
  }
  async function save(profile: Profile): Promise<void> {
    await saveProfile(profile)
    await load()
  }
  async function remove(id: string): Promise<void> {
    await removeProfile(id)
    await load()
  }
  const byId = (id: string): Profile | undefined =>
    profiles.value.find((profile) => profile.id === id)

  return { profiles, problem, load, save, remove, byId }
})
