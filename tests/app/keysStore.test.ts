import type { KeyRecord } from '@green-mantle/core/destinations'
import { demoShow } from '@green-mantle/demo'
import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { fetchKeys, forgetKey, restoreKey, storeKey } from '~/api/keys'
import { ApiProblem } from '~/api/problem'
import { fetchShow } from '~/api/shows'
import { useKeysStore } from '~/stores/keys'
import { useShowStore } from '~/stores/show'

vi.mock('~/api/shows', async (original) => ({
  ...(await original<typeof import('~/api/shows')>()),
  fetchShow: vi.fn(),
  saveShow: vi.fn(),
}))
vi.mock('~/api/keys')

const flickerbrook = demoShow.destinations.find(({ id }) => id === 'flickerbrook')!
const record = (storedAt: string): KeyRecord => ({
  destinationId: 'flickerbrook',
  storedAt,
  readable: 'yes',
  sameAs: [],
  isAsBefore: false,
})

beforeEach(() => {
  vi.useFakeTimers({ now: new Date('2026-12-12T20:00:00Z') })
  setActivePinia(createPinia())
  vi.mocked(fetchShow).mockResolvedValue({ show: demoShow, revision: 1 })
  vi.mocked(fetchKeys)
    .mockReset()
    .mockResolvedValue([record('2026-12-12T19:00:00Z')])
})
afterEach(() => {
  useShowStore().close()
  vi.useRealTimers()
})
async function opened() {
  const keys = useKeysStore()
  await useShowStore().open('show')
  await vi.advanceTimersByTimeAsync(0)
  return keys
}

describe('what is known of keys', () => {
  it('is nothing until the server has said', async () => {
    vi.mocked(fetchKeys).mockReturnValue(new Promise(() => {}))
    const keys = await opened()
    expect(keys.records).toBeNull()
    expect(keys.stateOf(flickerbrook).state).toBe('missing')
  })

  it('goes stale while the page is open', async () => {
    const keys = await opened()
    expect(keys.stateOf(flickerbrook).state).toBe('present')
    // The show ends at eleven in the evening.
    await vi.advanceTimersByTimeAsync(3 * 3_600_000)
    expect(keys.stateOf(flickerbrook).state).toBe('stale')
  })

  it('is asked for again after each change', async () => {
    const keys = await opened()
    await keys.save('flickerbrook', 'new')
    await keys.forget('flickerbrook')
    await keys.restore('flickerbrook')
    expect(vi.mocked(storeKey).mock.calls).toEqual([['show', 'flickerbrook', 'new']])
    expect(forgetKey).toHaveBeenCalledWith('show', 'flickerbrook')
    expect(restoreKey).toHaveBeenCalledWith('show', 'flickerbrook')
    expect(fetchKeys).toHaveBeenCalledTimes(4)
  })

  it('says when the server does not answer, and keeps what it knew', async () => {
    const keys = await opened()
    vi.mocked(fetchKeys).mockRejectedValue(new ApiProblem(503, 'No database', 'Try again.'))
    await keys.load()
    expect(keys.problem).toBe('No database. Try again.')
    expect(keys.records).toHaveLength(1)
    expect(JSON.stringify(keys.$state)).not.toContain('new')
  })

  it('of another show is not taken for this one’s', async () => {
    let answer: (records: KeyRecord[]) => void = () => {}
    vi.mocked(fetchKeys).mockReturnValueOnce(new Promise((resolve) => (answer = resolve)))
    const keys = await opened()
    vi.mocked(fetchKeys).mockResolvedValue([])
    await useShowStore().open('another')
    await vi.advanceTimersByTimeAsync(0)
    answer([record('2026-12-12T19:00:00Z')])
    await vi.advanceTimersByTimeAsync(0)
    expect(keys.records).toEqual([])
  })
})
