import { ownHostProblem, ownHostProtocol } from '@green-mantle/core/trial'
import { useLocalStorage } from '@vueuse/core'
import { computed } from 'vue'

/** The host that trials are sent to instead of listeners here: kept in this browser, since it is of who sits at it. */
export function useOwnHost() {
  const kept = useLocalStorage('green-mantle.trial-host', '')
  const address = computed({
    get: () => kept.value,
    set: (value: string) => {
      kept.value = value
    },
  })
  return {
    address,
    protocol: computed(() => ownHostProtocol(address.value)),
    isRight: computed(() => ownHostProblem(address.value) === null),
  }
}
