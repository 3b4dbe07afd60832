import { plannedDemoShow } from '@green-mantle/demo'
import { fitShow, withPlan } from '@green-mantle/core/plan'
import { rehearsalState } from '@green-mantle/core/rehearsal'
import type { NightSummary } from '@green-mantle/core/simulation'
import { flushPromises } from '@vue/test-utils'
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { fetchShow } from '~/api/shows'
import { useRehearsalStore } from '~/stores/rehearsal'
import { useShowStore } from '~/stores/show'

vi.mock('~/api/shows', async (original) => ({
  ...(await original<typeof import('~/api/shows')>()),
  fetchShow: vi.fn(),
}))
interface Asked {
  from: number
  to: number
  answer(nights: NightSummary[]): void
  fail(error: Error): void
}
const { asked, ended } = vi.hoisted(() => ({ asked: [] as Asked[], ended: { count: 0 } }))
vi.mock('~/workers/workers', () => ({
  newRehearsalWorker: () => ({
    remote: {
      nights: (_show: unknown, _hour: number, from: number, to: number) =>
        new Promise<NightSummary[]>((answer, fail) => asked.push({ from, to, answer, fail })),
    },
    end: () => (ended.count += 1),
  }),
}))

const show = withPlan(plannedDemoShow, fitShow(plannedDemoShow).parts ?? [])
const nightOf = (night: number, isClean = true): NightSummary => ({
  night,
  isClean,
  cause: isClean ? null : 'line',
  who: isClean ? null : 'Commonhall',
  badness: isClean ? 0 : 2,
  lostShare: [0],
  awaySeconds: [0],
  behindSeconds: [0],
  score: [80],
})
const nightsOf = ({ from, to }: Asked): NightSummary[] =>
  Array.from({ length: to - from }, (_, index) => nightOf(from + index, index % 10 !== 0))

async function opened() {
  vi.mocked(fetchShow).mockResolvedValue({ show, revision: 1 })
  const store = useShowStore()
  await store.open('show')
  return { store, rehearsal: useRehearsalStore() }
}

beforeEach(() => {
  setActivePinia(createPinia())
  asked.length = 0
  ended.count = 0
})

describe('many nights', () => {
  it('are run piece by piece, and what they found is kept with the show', async () => {
    const { store, rehearsal } = await opened()
    const running = rehearsal.runNights(100)
    expect(rehearsal.running).toBe('nights')
    for (let piece = 0; piece < 4; piece += 1) {
      await flushPromises()
      const next = asked[piece]!
      next.answer(nightsOf(next))
    }
    await running
    expect(rehearsal.many).toMatchObject({ nights: 100, clean: 88 })
    expect(store.show.rehearsal.last).toMatchObject({ nights: 100, clean: 88 })
    expect(rehearsalState(store.show)).toMatchObject({ name: 'rehearsed', ofHundred: 88 })
    expect(rehearsal.running).toBeUndefined()
  })

  it('that are stopped end their workers, and keep what was known', async () => {
    const { store, rehearsal } = await opened()
    const running = rehearsal.runNights(1000)
    await flushPromises()
    asked[0]!.answer(nightsOf(asked[0]!))
    await flushPromises()
    rehearsal.stop()
    // The other workers never answer any more.
    await running
    expect(ended.count).toBeGreaterThan(0)
    expect(store.show.rehearsal.last).toMatchObject({ nights: 25 })
    // An answer that was on its way changes nothing now.
    asked[1]!.answer(nightsOf(asked[1]!))
    await flushPromises()
    expect(rehearsal.many.nights).toBe(25)
  })

  it('of a show that changed meanwhile are not kept as its own', async () => {
    const { store, rehearsal } = await opened()
    const running = rehearsal.runNights(25)
    await flushPromises()
    store.edit('Longer', (draft) => {
      draft.durationMinutes = 240
    })
    asked[0]!.answer(nightsOf(asked[0]!))
    await running
    expect(store.show.rehearsal.last).toBeNull()
    expect(rehearsal.isOfThisPlan).toBe(false)
  })

  it('that cannot be computed say why', async () => {
    const { rehearsal } = await opened()
    const running = rehearsal.runNights(25)
    await flushPromises()
    asked[0]!.fail(new Error('out of memory'))
    await running
    expect(rehearsal.problem).toMatch(/out of memory/)
    expect(rehearsal.running).toBeUndefined()
  })
})
