import { type KeyRecord, type KeyState, keyState } from '@green-mantle/core/destinations'
import type { Destination } from '@green-mantle/core/show'
import { useNow } from '@vueuse/core'
import { defineStore } from 'pinia'
import { ref, shallowRef, watch } from 'vue'
import { fetchKeys, forgetKey, restoreKey, storeKey } from '~/api/keys'
import { wordsFor } from '~/api/problem'
import { useShowStore } from './show'

const tickMilliseconds = 30_000

/** What is known of the keys of the open show. A key itself is never held here. */
export const useKeysStore = defineStore('keys', () => {
  const store = useShowStore()
  /** null until the server has said. */
  const records = shallowRef<KeyRecord[] | null>(null)
  const problem = ref('')
  /** Keys go stale while the page is open. */
  const now = useNow({ interval: tickMilliseconds })

  async function load(): Promise<void> {
    const showId = store.id
    if (!showId) return
    try {
      const fetched = await fetchKeys(showId)
      if (store.id === showId) records.value = fetched
      problem.value = ''
    } catch (error) {
      problem.value = wordsFor(error)
    }
  }
  watch(
    () => store.id,
    () => {
      records.value = null
      void load()
    },
    { immediate: true },
  )

  const stateOf = (destination: Destination): KeyState =>
    keyState(
      destination,
      records.value?.find(({ destinationId }) => destinationId === destination.id),
      store.show,
      now.value,
    )

  async function save(destinationId: string, key: string): Promise<void> {
    // A destination that was just added has to be saved before it can have a key: what is on its way
    // first, then what was not sent yet.
    await store.untilSettled()
    await store.save()
    await storeKey(store.id, destinationId, key)
    await load()
  }
  async function forget(destinationId: string): Promise<void> {
    await forgetKey(store.id, destinationId)
    await load()
  }
  async function restore(destinationId: string): Promise<void> {
    await restoreKey(store.id, destinationId)
    await load()
  }

  return { records, problem, now, stateOf, load, save, forget, restore }
})
