import { useLocalStorage } from '@vueuse/core'
import { computed, type ComputedRef } from 'vue'

/** Louder than a quiet room through a microphone; common practice, no published source. */
const heardAboveDecibels = -50
/** Not written at every frame. */
const againAfterMilliseconds = 10_000
const maxKept = 200

interface Heard {
  showId: string
  soundId: string
  /** ISO 8601, by this browser's clock. */
  at: string
}

/** When each sound of a show last moved its level in this browser. */
export function useHeardSounds(showId: () => string): {
  heardAt: ComputedRef<Record<string, string>>
  note: (levels: ReadonlyMap<string, number>) => void
} {
  const kept = useLocalStorage<Heard[]>('green-mantle.heard', [])
  const heardAt = computed(() =>
    Object.fromEntries(
      kept.value
        .filter((each) => each.showId === showId())
        .map(({ soundId, at }) => [soundId, at] as const),
    ),
  )
  function note(levels: ReadonlyMap<string, number>): void {
    const now = Date.now()
    const moved = [...levels].flatMap(([soundId, level]) => {
      const before = Date.parse(heardAt.value[soundId] ?? '')
      return level > heardAboveDecibels && !(now - before < againAfterMilliseconds) ? [soundId] : []
    })
    if (moved.length === 0) return
    const at = new Date(now).toISOString()
    kept.value = [
      ...kept.value.filter((each) => each.showId !== showId() || !moved.includes(each.soundId)),
      ...moved.map((soundId) => ({ showId: showId(), soundId, at })),
    ].slice(-maxKept)
  }
  return { heardAt, note }
}
