import {
  afterEvents,
  type Happening,
  type NewNightEvent,
  type NightEvent,
  type NightState,
  noNight,
} from '@green-mantle/core/night'
import { useDocumentVisibility, useLocalStorage } from '@vueuse/core'
import { nanoid } from 'nanoid'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { fetchNight, keepNightEvents, nightStream } from '~/api/night'
import { ApiProblem, wordsFor } from '~/api/problem'
import {
  forgetHappening,
  keepHappening,
  type KeptHappening,
  keptHappenings,
} from './keptHappenings'

const retryMilliseconds = 2000
const maxInOneRequest = 100

/** The log of a show's night: what every window sees of it, and what this one adds. */
export const useNightLogStore = defineStore('night log', () => {
  const showId = ref('')
  /** What the server has kept. */
  const kept = shallowRef<NightState>(noNight)
  const isRead = ref(false)
  const problem = ref('')
  /** Whether what others do is seen as it happens. */
  const isConnected = ref(false)
  /** How far the server's clock is ahead of this one. */
  const clockAheadMilliseconds = ref(0)
  const who = useLocalStorage('green-mantle.who', '')
  /** What was done here and has not come back from the server as kept. */
  const waiting = shallowRef<KeptHappening[]>([])
  /** Of these, what it has acknowledged: it comes back with the log. */
  const acknowledged = shallowRef<ReadonlySet<string>>(new Set())

  /**
   * A browser keeps few connections to one server: a window that nobody sees gives its own back, and
   * catches up when it is seen again.
   */
  const visibility = useDocumentVisibility()
  watch(visibility, (now) => {
    if (!showId.value) return
    if (now === 'visible') void read()
    else {
      stream?.close()
      stream = undefined
      isConnected.value = false
    }
  })

  let stream: EventSource | undefined
  let retry: ReturnType<typeof setTimeout> | undefined
  let isSending = false

  const lastKept = (): number => kept.value.events.at(-1)?.sequence ?? 0
  const nowOnServer = (): number => Date.now() + clockAheadMilliseconds.value

  /** The night as it stands here: what is kept, and what was done here since. */
  const state = computed<NightState>(() => {
    const known = new Set(kept.value.events.map(({ id }) => id))
    const pending = waiting.value
      .filter(({ id }) => !known.has(id))
      .map(({ id, who: by, atMilliseconds, happening }, index): NightEvent => ({
        ...{ id, happening, who: by },
        at: new Date(atMilliseconds + clockAheadMilliseconds.value).toISOString(),
        sequence: lastKept() + index + 1,
      }))
    return afterEvents(kept.value, pending)
  })

  function take(events: readonly NightEvent[]): void {
    kept.value = afterEvents(kept.value, events)
    const known = new Set(events.map(({ id }) => id))
    forget(({ id }) => known.has(id))
  }
  function forget(isDone: (entry: KeptHappening) => boolean): void {
    const gone = waiting.value.filter(isDone)
    if (gone.length === 0) return
    for (const { id } of gone) forgetHappening(showId.value, id)
    waiting.value = waiting.value.filter((entry) => !isDone(entry))
  }

  /** Reads the log of a show and follows it; ends with `close`. */
  async function open(id: string): Promise<void> {
    close()
    showId.value = id
    waiting.value = keptHappenings(id)
    await read()
    void send()
  }

  async function read(): Promise<void> {
    const id = showId.value
    if (!id) return
    try {
      for (;;) {
        const asked = Date.now()
        const { events, last, now } = await fetchNight(id, lastKept())
        if (showId.value !== id) return
        clockAheadMilliseconds.value = Date.parse(now) - (asked + Date.now()) / 2
        take(events)
        if (lastKept() >= last || events.length === 0) break
      }
      isRead.value = true
      problem.value = ''
      if (stream?.readyState !== EventSource.OPEN) follow(id)
    } catch (error) {
      if (showId.value !== id) return
      problem.value = wordsFor(error)
      readLater()
    }
  }
  function readLater(): void {
    clearTimeout(retry)
    retry = setTimeout(() => {
      void read()
      void send()
    }, retryMilliseconds)
  }

  function follow(id: string): void {
    stream?.close()
    const source = nightStream(id, lastKept())
    stream = source
    source.onopen = () => {
      isConnected.value = true
      void send()
    }
    source.onmessage = ({ data }: MessageEvent<string>) => take([JSON.parse(data) as NightEvent])
    source.onerror = () => {
      if (stream !== source) return
      isConnected.value = false
      // A browser goes on by itself where the connection broke, not where the server refused.
      if (source.readyState === EventSource.CLOSED) readLater()
    }
  }

  function close(): void {
    clearTimeout(retry)
    stream?.close()
    stream = undefined
    isConnected.value = false
    isRead.value = false
    showId.value = ''
    kept.value = noNight
    waiting.value = []
    acknowledged.value = new Set()
    problem.value = ''
  }

  /** Says that something happened now; it is seen here at once and kept as soon as the server can. */
  function happened(happening: Happening): void {
    const entry = { id: nanoid(21), who: who.value, atMilliseconds: Date.now(), happening }
    keepHappening(showId.value, entry)
    waiting.value = [...waiting.value, entry]
    void send()
  }

  const unkept = computed(() => waiting.value.filter(({ id }) => !acknowledged.value.has(id)))

  /** Sends what is not kept, first to last; tried again for as long as the night is open. */
  async function send(): Promise<void> {
    const id = showId.value
    const part = unkept.value.slice(0, maxInOneRequest)
    if (isSending || !id || part.length === 0) return
    isSending = true
    const ids = new Set(part.map((entry) => entry.id))
    let goesOn = true
    try {
      const sent = part.map(({ atMilliseconds, ...event }): NewNightEvent => ({
        ...event,
        agoSeconds: Math.min(86_400, Math.max(0, (Date.now() - atMilliseconds) / 1000)),
      }))
      await keepNightEvents(id, sent)
      if (showId.value !== id) return
      acknowledged.value = new Set([...acknowledged.value, ...ids])
      if (!isConnected.value) await read()
    } catch (error) {
      if (showId.value !== id) return
      problem.value = wordsFor(error)
      goesOn = !(error instanceof ApiProblem && error.isPassing)
      // What is refused would be refused again, and what comes after it would never be kept.
      if (goesOn) forget((entry) => ids.has(entry.id))
      else readLater()
    } finally {
      isSending = false
    }
    if (goesOn && unkept.value.length > 0) void send()
  }

  return {
    state,
    isRead,
    isConnected,
    problem,
    who,
    /** How many entries are not kept yet. */
    unkeptCount: computed(() => unkept.value.length),
    nowOnServer,
    open,
    close,
    happened,
  }
})
