import {
  fitShow,
  planChanges,
  planOf,
  planRows,
  type PlanParts,
  possibleImprovements,
  withPlan,
  type FitResult,
} from '@green-mantle/core/plan'
import { lineOf, type Show } from '@green-mantle/core/show'
import { plannedDemoShow } from '@green-mantle/demo'
import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { nextTick } from 'vue'
import { fetchShow, saveShow } from '~/api/shows'
import { usePlannerStore } from '~/stores/planner'
import { useShowStore } from '~/stores/show'
import type { PlannerNews } from '~/workers/planner.worker'

interface Question {
  show: Show
  tell: (news: PlannerNews) => void
}

/** A worker that is asked and answers only when told to. */
const worker = vi.hoisted(() => ({
  asked: [] as unknown[],
  stop: (() => undefined) as () => unknown,
}))
vi.mock('~/workers/workers', () => ({
  plannerWorker: () => ({
    plan: (show: Show, tell: Question['tell']) => void worker.asked.push({ show, tell }),
    stop: () => worker.stop(),
    nextStep: () => null,
  }),
}))
vi.mock('~/api/shows', async (original) => ({
  ...(await original<typeof import('~/api/shows')>()),
  fetchShow: vi.fn(),
  saveShow: vi.fn(),
}))

const questions = worker.asked as Question[]
const result = (parts: PlanParts | null, isProven = true): FitResult => ({
  parts,
  worth: parts && { leftOutWeight: 0, belowFloor: 0, scoreUnits: 1, encodes: 1, kbps: 1 },
  uploadKbps: 0,
  unitsById: {},
  status: isProven ? { name: 'optimal', gap: 0 } : { name: 'stopped', gap: null },
})
const answer = (question: Question): void =>
  question.tell({ about: 'plan', result: result(fitShow(question.show).parts), isLast: true })

/** The demo open, with the planner asked about it once. */
async function opened(show: Show = plannedDemoShow, { isLookedAt = false } = {}) {
  vi.mocked(fetchShow).mockResolvedValue({ show, revision: 1 })
  const store = useShowStore()
  await store.open('show')
  const planner = usePlannerStore()
  if (!isLookedAt) planner.want()
  await nextTick()
  return { store, planner }
}
async function edit(store: ReturnType<typeof useShowStore>, change: (draft: Show) => void) {
  store.edit('Change', change)
  await nextTick()
}
const main = (store: ReturnType<typeof useShowStore>) => store.show.destinations[0]!.renditions[0]!

beforeEach(() => {
  vi.useFakeTimers()
  localStorage.clear()
  setActivePinia(createPinia())
  worker.asked.length = 0
  worker.stop = vi.fn()
  vi.mocked(saveShow).mockReset().mockResolvedValue(2)
})
afterEach(() => {
  useShowStore().close()
  vi.useRealTimers()
})

describe('the planner', () => {
  it('is asked anew by what matters to it, and by nothing else', async () => {
    const { store, planner } = await opened()
    expect(questions).toHaveLength(1)
    expect(planner.isWorking).toBe(true)
    await edit(store, (draft) => void (draft.title = 'Another night'))
    expect(questions).toHaveLength(1)
    await edit(store, (draft) => void (lineOf(draft).headroomPercent = 50))
    expect(questions).toHaveLength(2)
    expect(lineOf(questions[1]!.show).headroomPercent).toBe(50)
  })

  it('is not asked for a show that is only looked at, but for one that is edited', async () => {
    const { store } = await opened(plannedDemoShow, { isLookedAt: true })
    expect(questions).toHaveLength(0)
    await edit(store, (draft) => void (draft.title = 'Another night'))
    expect(questions).toHaveLength(0)
    await edit(store, (draft) => void (lineOf(draft).headroomPercent = 50))
    expect(questions).toHaveLength(1)
  })

  it('leaves a kept plan that holds as it is, wherever its show is opened', async () => {
    const { parts } = fitShow(plannedDemoShow)
    // Another plan that fits as well, as a search that was cut off may have found.
    const kept = withPlan(plannedDemoShow, parts!)
    kept.destinations[0]!.renditions[0]!.videoBitrateKbps -= 150
    const { store, planner } = await opened(kept)
    answer(questions.at(-1)!)
    await nextTick()
    expect(store.show).toEqual(kept)
    expect(planner.staysAsItIs).toBe(true)
    await edit(store, (draft) => void (lineOf(draft).headroomPercent += 1))
    answer(questions.at(-1)!)
    expect(planner.isCarried).toBe(true)
  })

  it('plans what is opened and holds no longer', async () => {
    const kept = withPlan(plannedDemoShow, fitShow(plannedDemoShow).parts!)
    kept.destinations[0]!.renditions[0]!.videoBitrateKbps = 8900
    const { store, planner } = await opened(kept)
    expect(store.verdict.state).toBe('fails')
    answer(questions.at(-1)!)
    expect(planner.isCarried).toBe(true)
  })

  it('is left alone where there is nothing to plan', async () => {
    const { planner } = await opened({ ...plannedDemoShow, destinations: [], recordings: [] })
    expect(questions).toHaveLength(0)
    expect(worker.stop).toHaveBeenCalled()
    expect(planner.canPlan).toBe(false)
    expect(planner.isWorking).toBe(false)
  })

  it('puts its plan into the show with the edit that asked for it', async () => {
    const { store, planner } = await opened(
      withPlan(plannedDemoShow, fitShow(plannedDemoShow).parts!),
    )
    answer(questions[0]!)
    const before = main(store).videoBitrateKbps
    await edit(store, (draft) => void (lineOf(draft).headroomPercent = 60))
    answer(questions[1]!)
    expect(planner.isCarried).toBe(true)
    expect(planner.isWorking).toBe(false)
    expect(main(store).videoBitrateKbps).toBeLessThan(before)
    store.undo()
    expect(lineOf(store.show).headroomPercent).toBe(30)
    expect(main(store).videoBitrateKbps).toBe(before)
  })

  it('takes no answer to an older question', async () => {
    const { store, planner } = await opened()
    await edit(store, (draft) => void (lineOf(draft).headroomPercent = 60))
    answer(questions[0]!)
    expect(planner.result).toBeUndefined()
    expect(planner.isWorking).toBe(true)
  })

  it('shows a plan that may still get better only where the best takes long', async () => {
    const { store } = await opened()
    const before = main(store)
    const parts = fitShow(plannedDemoShow).parts
    const lesser = { about: 'plan', result: result(parts, false), isLast: false } as const
    questions[0]!.tell(lesser)
    expect(main(store)).toBe(before)
    await vi.advanceTimersByTimeAsync(1100)
    questions[0]!.tell(lesser)
    expect(planOf(store.show)).toEqual(parts)
  })

  it('shows the plan that nearly fits where none does', async () => {
    const { store, planner } = await opened()
    questions[0]!.tell({ about: 'plan', result: result(null), isLast: true })
    expect(planOf(store.show)).toEqual(planOf(plannedDemoShow))
    const { parts } = fitShow(plannedDemoShow)
    questions[0]!.tell({ about: 'nearest', words: 'It misses by a little.', parts })
    expect(planner.nearest?.words).toBe('It misses by a little.')
    expect(planOf(store.show)).toEqual(parts)
  })

  it('changes no cell that is set by hand, until its plan is taken', async () => {
    const byHand = { ...plannedDemoShow, fit: { ...plannedDemoShow.fit, automatic: false } }
    const { store, planner } = await opened(byHand)
    answer(questions[0]!)
    expect(planOf(store.show)).toEqual(planOf(byHand))
    expect(planner.isCarried).toBe(false)
    planner.carryOut()
    expect(planOf(store.show)).toEqual(fitShow(byHand).parts)
    expect(store.show.fit.automatic).toBe(false)
  })

  it('tells what a tried way has changed, for as long as it is the last edit', async () => {
    const { store, planner } = await opened()
    answer(questions[0]!)
    const before = planRows(store.show, planOf(store.show))
    const way = possibleImprovements(store.show).find(({ id }) => id === 'frames')!
    expect(planner.tried).toBeNull()
    await planner.tryWay('frames')
    await nextTick()
    answer(questions[1]!)
    const changes = planChanges(before, planRows(store.show, planOf(store.show)))
    expect(changes.length).toBeGreaterThan(0)
    expect(planner.tried).toEqual({ label: way.label, changes })
    store.undo()
    expect(planner.tried).toBeNull()
    expect(planRows(store.show, planOf(store.show))).toEqual(before)
  })
})
