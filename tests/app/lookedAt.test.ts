import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { effectScope, isReactive, nextTick } from 'vue'
import { useLookedAt, useSettled } from '~/components/canvases/lookedAt'
import { useShowStore } from '~/stores/show'
import { openPlannedDemo } from './openedDemo'

vi.mock('~/api/shows', async (original) => ({
  ...(await original<typeof import('~/api/shows')>()),
  fetchShow: vi.fn(),
  saveShow: vi.fn(),
}))

const waits = { useLookedAt, useSettled }

describe.each(Object.entries(waits))('what is worked out beside a drag, by %s', (_, use) => {
  let scope = effectScope()
  beforeEach(async () => {
    vi.useFakeTimers()
    scope = effectScope()
    // It is not frozen, which would hide it from Vue by itself.
    await openPlannedDemo()
  })
  afterEach(() => {
    scope.stop()
    useShowStore().close()
    vi.useRealTimers()
  })

  it('looks at the show itself, a moment later, without Vue noting what it reads', async () => {
    const store = useShowStore()
    const looked = scope.run(() => use(200))!
    await vi.advanceTimersByTimeAsync(1000)
    expect(isReactive(looked.value.show)).toBe(false)
    expect(isReactive(looked.value.scene.layers)).toBe(false)
    store.edit('Title', (draft) => {
      draft.title = 'Another'
    })
    await nextTick()
    await vi.advanceTimersByTimeAsync(1000)
    expect(looked.value.show).toBe(store.show)
    expect(looked.value.show.title).toBe('Another')
  })
})
