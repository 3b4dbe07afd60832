import type { NewNightEvent, NightEvent } from '@green-mantle/core/night'
import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { keepHappening, keptHappenings } from '~/stores/keptHappenings'
import { useNightLogStore } from '~/stores/nightLog'

/** A server that keeps a log, and may be away. */
class FakeServer {
  events: NightEvent[] = []
  isAway = false
  /** Refuses as a server does that will not have it. */
  refuses = false
  streams: FakeStream[] = []

  answer(status: number, body: unknown): Response {
    return new Response(JSON.stringify(body), { status })
  }
  fetch = async (path: string, init?: RequestInit): Promise<Response> => {
    if (this.isAway) throw new TypeError('network')
    if (init?.method === 'POST') {
      if (this.refuses) return this.answer(422, { title: 'Breaks its schema', detail: 'Not kept.' })
      this.keep(JSON.parse(init.body as string) as NewNightEvent[])
      return this.answer(200, { last: this.events.length })
    }
    const after = Number(new URL(path, 'http://x').searchParams.get('after'))
    const events = this.events.filter(({ sequence }) => sequence > after)
    return this.answer(200, { events, last: this.events.length, now: new Date().toISOString() })
  }
  keep(list: readonly NewNightEvent[]): void {
    for (const { id, who, agoSeconds, happening } of list) {
      if (this.events.some((event) => event.id === id)) continue
      const at = new Date(Date.now() - agoSeconds * 1000).toISOString()
      this.events.push({ id, who, happening, at, sequence: this.events.length + 1 })
    }
  }
  tell(): void {
    for (const stream of this.streams) stream.tell(this.events)
  }
}
class FakeStream {
  static CLOSED = 2
  static OPEN = 1
  readyState = 1
  onopen?: () => void
  onmessage?: (event: { data: string }) => void
  onerror?: () => void
  constructor(readonly address: string) {
    server.streams.push(this)
    queueMicrotask(() => this.onopen?.())
  }
  tell(events: readonly NightEvent[]): void {
    if (this.readyState === 2) return
    for (const event of events) this.onmessage?.({ data: JSON.stringify(event) })
  }
  close(): void {
    this.readyState = 2
  }
}

let server: FakeServer
beforeEach(() => {
  setActivePinia(createPinia())
  localStorage.clear()
  server = new FakeServer()
  vi.stubGlobal('fetch', server.fetch)
  vi.stubGlobal('EventSource', FakeStream)
  vi.useFakeTimers({ shouldAdvanceTime: true })
})
afterEach(() => {
  useNightLogStore().close()
  vi.useRealTimers()
  vi.unstubAllGlobals()
})

const ticked = (taskId: string) =>
  ({ kind: 'ticked', taskId, title: taskId, knowingly: false }) as const

describe('the log of a night in one window', () => {
  it('shows at once what is done here, and lets it go once it comes back as kept', async () => {
    const log = useNightLogStore()
    await log.open('show')
    log.happened(ticked('line'))
    expect(log.state.ticks.has('line')).toBe(true)
    expect(keptHappenings('show')).toHaveLength(1)
    await vi.waitFor(() => expect(log.unkeptCount).toBe(0))
    // Acknowledged and not told yet: it stays ticked meanwhile.
    expect(log.state.ticks.has('line')).toBe(true)
    server.tell()
    expect(log.state.events).toHaveLength(1)
    expect(keptHappenings('show')).toEqual([])
  })

  it('keeps what is done while the server is away, in its order and at its time', async () => {
    const log = useNightLogStore()
    await log.open('show')
    server.isAway = true
    log.happened(ticked('line'))
    log.happened(ticked('disk'))
    await vi.waitFor(() => expect(log.problem).not.toBe(''))
    expect(log.unkeptCount).toBe(2)
    await vi.advanceTimersByTimeAsync(30_000)
    server.isAway = false
    await vi.advanceTimersByTimeAsync(3000)
    await vi.waitFor(() => expect(server.events).toHaveLength(2))
    expect(server.events.map(({ happening }) => happening)).toEqual([
      ticked('line'),
      ticked('disk'),
    ])
    expect(Date.now() - Date.parse(server.events[0]!.at)).toBeGreaterThan(29_000)
  })

  it('takes up what a closed window had not seen kept, and sends it once', async () => {
    const left = {
      id: 'left',
      who: 'Oke',
      atMilliseconds: Date.now() - 5000,
      happening: ticked('line'),
    }
    keepHappening('show', left)
    server.keep([{ id: 'left', who: 'Oke', agoSeconds: 5, happening: ticked('line') }])
    keepHappening('other', { ...left, id: 'not of this show' })
    const log = useNightLogStore()
    await log.open('show')
    await vi.waitFor(() => expect(keptHappenings('show')).toEqual([]))
    expect(server.events).toHaveLength(1)
    expect(keptHappenings('other')).toHaveLength(1)
  })

  it('says what is refused, and keeps what comes after it', async () => {
    const log = useNightLogStore()
    await log.open('show')
    server.refuses = true
    log.happened(ticked('line'))
    await vi.waitFor(() => expect(log.problem).toContain('Breaks its schema'))
    expect(log.state.ticks.has('line')).toBe(false)
    server.refuses = false
    log.happened(ticked('disk'))
    await vi.waitFor(() => expect(server.events).toHaveLength(1))
  })

  it('asks again where the stream was refused, from the last entry that it had', async () => {
    const log = useNightLogStore()
    server.keep([{ id: 'a', who: '', agoSeconds: 0, happening: ticked('line') }])
    await log.open('show')
    const [stream] = server.streams
    expect(stream?.address).toContain('after=1')
    stream!.readyState = 2
    stream!.onerror?.()
    expect(log.isConnected).toBe(false)
    server.keep([{ id: 'b', who: '', agoSeconds: 0, happening: ticked('disk') }])
    await vi.advanceTimersByTimeAsync(3000)
    await vi.waitFor(() => expect(log.state.ticks.has('disk')).toBe(true))
    await vi.waitFor(() => expect(server.streams.at(-1)?.address).toContain('after=2'))
  })
})
