import {
  type NightEvent,
  nightsOf,
  nightState,
  type NightState,
  wrapUp,
} from '@green-mantle/core/night'
import {
  computed,
  type ComputedRef,
  inject,
  type InjectionKey,
  provide,
  ref,
  shallowRef,
} from 'vue'
import { fetchWholeLog } from '~/api/night'
import { wordsFor } from '~/api/problem'
import { useNightLogStore } from '~/stores/nightLog'
import { useRunSheetStore } from '~/stores/runSheet'
import { useShowStore } from '~/stores/show'

/** The night that is wrapped up: the last one as it still grows, or an earlier one of the same show. */
function makeWrappedNight() {
  const show = useShowStore()
  const sheet = useRunSheetStore()
  const log = useNightLogStore()
  const earlier = shallowRef<readonly NightEvent[][]>([])
  /** Which of the earlier ones; null for the last. */
  const chosen = ref<number | null>(null)
  const problem = ref('')

  const state: ComputedRef<NightState> = computed(() => {
    const events = chosen.value === null ? undefined : earlier.value[chosen.value]
    return events ? nightState(events) : log.state
  })
  const isLast = computed(() => chosen.value === null)
  // When an earlier night was planned to begin, and what was known of it then, was not kept.
  const wrapped = computed(() =>
    isLast.value
      ? wrapUp(show.show, sheet.order, log.state, sheet.knownIds, sheet.startsAt)
      : wrapUp(show.show, sheet.order, state.value, new Set(), null),
  )
  const beginnings = computed(() => earlier.value.map((events) => events[0]?.at ?? ''))

  async function load(): Promise<void> {
    try {
      const nights = nightsOf(await fetchWholeLog(show.id))
      const last = log.state.events.find(({ happening }) => happening.kind !== 'new night')?.id
      earlier.value = nights.filter((events) => events[0]?.id !== last)
    } catch (error) {
      problem.value = wordsFor(error)
    }
  }

  return { state, wrapped, isLast, chosen, beginnings, problem, load }
}

const key: InjectionKey<ReturnType<typeof makeWrappedNight>> = Symbol('wrapped night')

export function provideWrappedNight(): ReturnType<typeof makeWrappedNight> {
  const made = makeWrappedNight()
  provide(key, made)
  return made
}
export function useWrappedNight(): ReturnType<typeof makeWrappedNight> {
  const made = inject(key)
  if (!made) throw new Error('No night is wrapped up here.')
  return made
}
