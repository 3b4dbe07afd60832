import { startOf } from '@green-mantle/core/destinations'
import {
  type NightEvent,
  nightOrder,
  nightsOf,
  nightState,
  type NightState,
  putAwayAt,
  wrapUp,
} from '@green-mantle/core/night'
import type { Show } from '@green-mantle/core/show'
import {
  computed,
  type ComputedRef,
  inject,
  type InjectionKey,
  provide,
  ref,
  shallowRef,
} from 'vue'
import { fetchNightShow, fetchWholeLog } from '~/api/night'
import { wordsFor } from '~/api/problem'
import { useNightLogStore } from '~/stores/nightLog'
import { useRunSheetStore } from '~/stores/runSheet'
import { useShowStore } from '~/stores/show'

/** The night that is wrapped up: the last one as it still grows, or an earlier one of the same show. */
function makeWrappedNight() {
  const show = useShowStore()
  const sheet = useRunSheetStore()
  const log = useNightLogStore()
  const earlier = shallowRef<readonly { events: NightEvent[]; putAway: number | null }[]>([])
  /** The show as it stood after the earlier night that is chosen; null where that was not kept. */
  const keptShow = shallowRef<Show | null>(null)
  /** Which of the earlier ones; null for the last. */
  const chosen = ref<number | null>(null)
  const problem = ref('')

  const state: ComputedRef<NightState> = computed(() => {
    const night = chosen.value === null ? undefined : earlier.value[chosen.value]
    return night ? nightState(night.events) : log.state
  })
  const isLast = computed(() => chosen.value === null)
  /** What the night is held against. */
  const plannedShow = computed(() => (isLast.value ? null : keptShow.value) ?? show.show)
  // What was known of an earlier night was not kept; nor, of those before that was, when it was to begin.
  const wrapped = computed(() => {
    if (isLast.value)
      return wrapUp(show.show, sheet.order, log.state, sheet.knownIds, sheet.startsAt)
    const planned = plannedShow.value
    const startsAt = keptShow.value && startOf(keptShow.value)
    return wrapUp(planned, nightOrder(planned), state.value, new Set(), startsAt)
  })
  const beginnings = computed(() => earlier.value.map(({ events }) => events[0]?.at ?? ''))

  let wanted: number | null = null
  /** Shows an earlier night, or the last where it is null. */
  async function choose(which: number | null): Promise<void> {
    wanted = which
    const putAway = which === null ? null : (earlier.value[which]?.putAway ?? null)
    try {
      const kept = putAway === null ? null : await fetchNightShow(show.id, putAway)
      // Another may have been chosen meanwhile.
      if (wanted !== which) return
      keptShow.value = kept
      chosen.value = which
    } catch (error) {
      problem.value = wordsFor(error)
    }
  }

  async function load(): Promise<void> {
    try {
      const all = await fetchWholeLog(show.id)
      const last = log.state.events.find(({ happening }) => happening.kind !== 'new night')?.id
      earlier.value = nightsOf(all)
        .filter((events) => events[0]?.id !== last)
        .map((events) => ({ events, putAway: putAwayAt(all, events) }))
    } catch (error) {
      problem.value = wordsFor(error)
    }
  }

  const isShowKept = computed(() => keptShow.value !== null)
  return {
    state,
    wrapped,
    plannedShow,
    isLast,
    isShowKept,
    chosen,
    choose,
    beginnings,
    problem,
    load,
  }
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
