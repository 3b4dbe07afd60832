import { startOf } from '@green-mantle/core/destinations'
import { DateTime } from 'luxon'
import { computed } from 'vue'
import { useShowStore } from '~/stores/show'

/** What stands beside the axis of the show, in pixels; chart, flags and lanes keep to it. */
export const axis = { left: 128, right: 252 } as const

/** The time of the show along the axis: seconds as shares of it, and as the clock shows them. */
export function useTimeAxis() {
  const store = useShowStore()
  const seconds = computed(() => store.show.durationMinutes * 60)
  const percent = (atSeconds: number): string =>
    `${Math.min(100, Math.max(0, (100 * atSeconds) / seconds.value))}%`
  const clock = (atSeconds: number, format = 'HH:mm:ss'): string =>
    DateTime.fromJSDate(startOf(store.show), { zone: store.show.timeZone })
      .plus({ seconds: atSeconds })
      .toFormat(format)
  return { seconds, percent, clock }
}
