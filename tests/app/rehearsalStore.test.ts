import { plannedDemoShow } from '@green-mantle/demo'
import { fitShow, withPlan } from '@green-mantle/core/plan'
import {
  type HeadroomPoint,
  type JointChoice,
  type JointResult,
  rehearsalState,
} from '@green-mantle/core/rehearsal'
import type { Show } from '@green-mantle/core/show'
import type { NightSummary } from '@green-mantle/core/simulation'
import { flushPromises } from '@vue/test-utils'
import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
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
  percent?: number
  answerPoint?(isEnough: boolean): void
}
const { asked, ended } = vi.hoisted(() => ({ asked: [] as Asked[], ended: { count: 0 } }))
/** Less headroom is seen better, and lowering makes it as clean. */
const joint = (headroomPercent: number, lowering: string[], nights: number): JointResult => {
  const share = lowering.length > 0 || headroomPercent >= 30 ? 1 : 0.5
  return {
    ...{ headroomPercent, lowering, nights, clean: share * nights },
    share: { share, low: share - 0.03, high: share },
    seenPoints: 300 - headroomPercent,
  }
}
vi.mock('~/workers/workers', () => ({
  newRehearsalWorker: () => ({
    remote: {
      nights: (_show: unknown, _hour: number, from: number, to: number) =>
        new Promise<NightSummary[]>((answer, fail) => asked.push({ from, to, answer, fail })),
      headroomPoint: (_show: unknown, _hour: number, percent: number) =>
        new Promise<HeadroomPoint>((resolve) =>
          asked.push({
            ...{ from: 0, to: 0, answer: () => {}, fail: () => {}, percent },
            answerPoint: (isEnough) =>
              resolve({
                percent,
                clean: 0,
                nights: 400,
                share: isEnough
                  ? { share: 0.99, low: 0.97, high: 1 }
                  : { share: 0.5, low: 0.45, high: 0.55 },
                anew: isEnough ? { share: 0.99, low: 0.97, high: 1 } : null,
                points: 100 - percent,
                leftOut: 0,
              }),
          }),
        ),
      night: () => new Promise(() => {}),
      jointlyAt: async (_show: unknown, percent: number, { nights }: { nights: number }) =>
        [[], ['longmeadow']].map((lowering) => joint(percent, lowering, nights)),
      jointResult: async (_show: unknown, choice: JointChoice, { nights }: { nights: number }) =>
        joint(choice.headroomPercent, choice.lowering, nights),
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

async function opened(opensWith: Show = show) {
  vi.mocked(fetchShow).mockResolvedValue({ show: opensWith, revision: 1 })
  const store = useShowStore()
  await store.open('show')
  return { store, rehearsal: useRehearsalStore() }
}

beforeEach(() => {
  setActivePinia(createPinia())
  asked.length = 0
  ended.count = 0
})

describe('a headroom that follows', () => {
  const measuredOften = withPlan(
    {
      ...plannedDemoShow,
      lines: plannedDemoShow.lines.map((line) => ({
        ...line,
        samples: Array.from({ length: 24 }, (_, index) => ({
          ...line.samples[0]!,
          id: `s${index}`,
        })),
      })),
    },
    fitShow(plannedDemoShow).parts ?? [],
  )
  const wanting = (automatic: boolean): Show => ({
    ...measuredOften,
    fit: { ...measuredOften.fit, automatic },
    rehearsal: { ...measuredOften.rehearsal, headroomFollows: true },
  })
  async function following(opensWith: Show) {
    vi.useFakeTimers()
    const { store, rehearsal } = await opened(opensWith)
    rehearsal.want()
    await vi.advanceTimersByTimeAsync(1000)
    return { store, rehearsal }
  }
  afterEach(() => vi.useRealTimers())

  it('is set once every headroom was looked at, in one step of undo', async () => {
    const { store, rehearsal } = await following(wanting(true))
    expect(rehearsal.running).toBe('headroom')
    while (asked.some(({ percent }) => percent !== undefined) || rehearsal.running) {
      for (const each of asked.splice(0)) each.answerPoint?.((each.percent ?? 0) >= 35)
      await vi.advanceTimersByTimeAsync(10)
    }
    expect(store.line.headroomPercent).toBe(35)
    await vi.advanceTimersByTimeAsync(2000)
    // What follows from it asks nothing again.
    expect(rehearsal.running).toBeUndefined()
    store.undo()
    expect(store.line.headroomPercent).toBe(30)
  })

  it('is not set from what was known when it was stopped', async () => {
    const { store, rehearsal } = await following(wanting(true))
    asked.splice(0, 1)[0]!.answerPoint?.(true)
    await vi.advanceTimersByTimeAsync(10)
    rehearsal.stop()
    await vi.advanceTimersByTimeAsync(2000)
    expect(store.line.headroomPercent).toBe(30)
  })

  it('stays as it is where cells are set by hand, which it would not change', async () => {
    const { rehearsal } = await following(wanting(false))
    expect(rehearsal.running).toBeUndefined()
  })
})

describe('headroom and who gives way', () => {
  const twoSends = (samples: number): Show => ({
    ...show,
    lines: show.lines.map((line) => ({
      ...line,
      samples: Array.from({ length: samples }, (_, index) => ({
        ...line.samples[0]!,
        id: `s${index}`,
      })),
    })),
  })

  it('are found together, the best seen first, and taken in one step of undo', async () => {
    const { store, rehearsal } = await opened(twoSends(24))
    await rehearsal.findTogether()
    const [best] = rehearsal.together!.better
    expect(best).toMatchObject({ headroomPercent: 0, lowering: ['longmeadow'], nights: 300 })
    expect(rehearsal.together!.now).toMatchObject({ headroomPercent: 30, nights: 300 })
    rehearsal.takeTogether(best!)
    expect(store.line.headroomPercent).toBe(0)
    const lowers = store.show.destinations.filter((each) => each.sending.whenBehind === 'lower')
    expect(lowers.map(({ id }) => id)).toEqual(['longmeadow'])
    // They were found for the show as it was.
    expect(rehearsal.together).toBeUndefined()
    store.undo()
    expect(store.line.headroomPercent).toBe(30)
  })

  it('give no headroom up on the strength of few measurements', async () => {
    const { rehearsal } = await opened(twoSends(3))
    await rehearsal.findTogether()
    for (const { headroomPercent } of rehearsal.together!.better)
      expect(headroomPercent).toBeGreaterThanOrEqual(30)
  })
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
  it('at another headroom are counted beside whatever runs, and their worker ended', async () => {
    const { rehearsal } = await opened()
    const before = ended.count
    const share = rehearsal.shareAt(20, new AbortController().signal)
    await flushPromises()
    const point = asked.find(({ percent }) => percent === 20)
    point!.answerPoint!(true)
    expect(await share).toMatchObject({ share: 0.99 })
    expect(ended.count).toBe(before + 1)
    expect(rehearsal.running).toBeUndefined()
    // Not wanted any more: its worker ends, and nobody waits for it.
    const superseded = new AbortController()
    const never = rehearsal.shareAt(15, superseded.signal)
    await flushPromises()
    superseded.abort()
    expect(await never).toBeNull()
    expect(ended.count).toBe(before + 2)
  })
})
