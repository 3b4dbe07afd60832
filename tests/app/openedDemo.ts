import { plannedDemoShow } from '@green-mantle/demo'
import { createPinia, setActivePinia } from 'pinia'
import { vi } from 'vitest'
import { fetchShow, saveShow } from '~/api/shows'
import { useShowStore } from '~/stores/show'

/** Opens the planned demo in stores of its own; for a test that has put stand-ins in place of `~/api/shows`. */
export async function openPlannedDemo(): Promise<void> {
  localStorage.clear()
  setActivePinia(createPinia())
  vi.mocked(fetchShow).mockResolvedValue({ show: structuredClone(plannedDemoShow), revision: 1 })
  vi.mocked(saveShow).mockResolvedValue(2)
  await useShowStore().open('show')
}
