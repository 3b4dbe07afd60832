import { useColorMode } from '@vueuse/core'
import { computed } from 'vue'

/** Day or night colours: the system's setting until a person chooses. */
export function useNight() {
  const mode = useColorMode({
    modes: { light: 'day', dark: 'night' },
    storageKey: 'green-mantle.colours',
    disableTransition: false,
  })
  const isNight = computed(() => mode.value === 'dark')
  const toggle = (): void => {
    mode.value = isNight.value ? 'light' : 'dark'
  }
  return { isNight, toggle }
}
