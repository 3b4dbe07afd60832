import { useIntervalFn, useRafFn } from '@vueuse/core'
import { computed, onScopeDispose, ref, shallowReactive, watch } from 'vue'

/** Something on a canvas that changes by itself. */
export interface Moving {
  /** Brings it up to this time; says whether it looks different now. */
  paint(seconds: number): boolean
}

/** Whether moving sources move. It belongs to this tab. */
export const isPlaying = ref(false)
const startedAt = ref(0)
/** The seconds of the simulated feed, whole; undefined while everything holds still. */
const feedSeconds = ref<number>()
export const feedTime = computed(() => (isPlaying.value ? feedSeconds.value : undefined))

/** What moves although nothing plays, such as a real camera. */
const live = shallowReactive(new Set<Moving>())
const playing = new Set<Moving>()
const redraws = new Set<() => void>()

export function setPlaying(plays: boolean): void {
  isPlaying.value = plays
  startedAt.value = performance.now()
  feedSeconds.value = plays ? 0 : undefined
}

/** Lets something move while the application plays, or always; gives back what ends that. */
export function startMoving(moving: Moving, { always = false } = {}): () => void {
  const set: Set<Moving> = always ? live : playing
  set.add(moving)
  return () => set.delete(moving)
}

/** Calls `redraw` after each frame in which something moved, for as long as the calling component is there. */
export function redrawOnMotion(redraw: () => void): void {
  redraws.add(redraw)
  onScopeDispose(() => redraws.delete(redraw))
}

/** Draws everything again at the next chance, as when a picture has been worked out in the background. */
export function redrawSoon(): void {
  requestAnimationFrame(() => redraws.forEach((redraw) => redraw()))
}

/** Runs the clock, for as long as the calling component is there. */
export function runPlayback(): void {
  const frame = (): void => {
    const seconds = (performance.now() - startedAt.value) / 1000
    let isChanged = false
    for (const moving of live) isChanged = moving.paint(seconds) || isChanged
    if (isPlaying.value)
      for (const moving of playing) isChanged = moving.paint(seconds) || isChanged
    if (isChanged) redraws.forEach((redraw) => redraw())
  }
  // A clock that ticks for nothing would keep the machine awake.
  const isNeeded = computed(() => isPlaying.value || live.size > 0)
  const { pause, resume } = useRafFn(frame, { immediate: false })
  watch(isNeeded, (needed) => (needed ? resume() : pause()), { immediate: true })
  useIntervalFn(() => {
    if (isPlaying.value)
      feedSeconds.value = Math.floor((performance.now() - startedAt.value) / 1000)
  }, 1000)
  onScopeDispose(() => setPlaying(false))
}
