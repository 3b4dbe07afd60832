import {
  type FitResult,
  type Gain,
  isCarriedOut,
  type Marginal,
  type NextStep,
  planChanges,
  planningKey,
  planOf,
  type PlanParts,
  type PlanRow,
  planRows,
  withPlan,
} from '@green-mantle/core/plan'
import type { Show } from '@green-mantle/core/show'
import { proxy } from 'comlink'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import type { PlannerNews } from '~/workers/planner.worker'
import { plannerWorker } from '~/workers/workers'
import { useShowStore } from './show'

/** The part of a show that the worker needs, as plain data. */
const forWorker = (show: Show): Show =>
  JSON.parse(JSON.stringify({ ...show, sources: [], scenes: [] })) as Show

const planLabel = 'Plan'
/** A plan that may still get better is put into the show only where the best takes longer than this. */
const patienceMilliseconds = 1000

/** The planner at work on the open show: it starts by itself after every change that matters to it. */
export const usePlannerStore = defineStore('planner', () => {
  const store = useShowStore()
  const result = shallowRef<FitResult>()
  const isWorking = ref(false)
  /** Which demands collide; empty where none do. */
  const conflicts = ref('')
  /** Why no plan can have what is left out, where it is more than want of room. */
  const obstacles = shallowRef<string[]>([])
  /** Where what has to be kept does not fit: by how much it misses, and the plan that nearly fits. */
  const nearest = shallowRef<{ words: string; parts: PlanParts | null }>()
  const marginals = shallowRef<Marginal[]>([])
  const gains = shallowRef<Gain[]>([])
  const areGainsKnown = ref(false)
  /** What the result is for; an answer to an older question is not taken. */
  let asked = ''
  let askedAt = 0
  /** Whether the plan that is there stays: it was only looked at, and it holds. */
  const staysAsItIs = ref(false)

  const isAutomatic = computed(() => store.isOpen && store.show.fit.automatic)
  /** Without a measured line, or anything to send or record, there is nothing to plan. */
  const canPlan = computed(
    () =>
      store.isOpen &&
      store.verdict.budget.upload.basis !== 'no samples' &&
      (store.show.destinations.some(({ on }) => on) || store.show.recordings.some(({ on }) => on)),
  )
  const question = computed(() => (canPlan.value ? planningKey(store.show) : ''))
  const foundParts = computed(() => result.value?.parts ?? nearest.value?.parts ?? null)
  const isCarried = computed(
    () => foundParts.value === null || isCarriedOut(store.show, foundParts.value),
  )
  /** Whether all cells are known to be those of a plan, which the next one changes no more than it has to. */
  const areCellsPlanned = computed(() =>
    [...store.show.destinations, ...store.show.recordings].every(
      ({ on, plan }) => !on || plan.planned,
    ),
  )
  /** The way to gain that was tried last, and what everybody had before. */
  const lastTried = shallowRef<{ label: string; before: PlanRow[] }>()
  /** What it changed, for as long as it is the last edit; null where none is. */
  const tried = computed(() => {
    const way = lastTried.value
    if (!way || store.undoLabel !== way.label) return null
    const now = planRows(store.show, planOf(store.show))
    return { label: way.label, changes: planChanges(way.before, now) }
  })

  /**
   * A show holds its plan, so that nothing is asked for one that is only looked at: not before
   * somebody wants to see what its plan rests on, or what it was planned for changes.
   */
  const isWanted = ref(false)
  watch(
    question,
    (now, before) => {
      if (now !== '' && before !== undefined && before !== '') isWanted.value = true
      if (isWanted.value) void ask({ isLookedAt: before === undefined || before === '' })
    },
    { immediate: true },
  )

  watch(
    () => store.isOpen,
    (isOpen) => {
      if (!isOpen) isWanted.value = false
    },
  )

  /** Plans the open show if that was not done yet. */
  function want(): void {
    if (isWanted.value) return
    isWanted.value = true
    void ask({ isLookedAt: true })
  }
  watch([() => store.isOpen, isAutomatic] as const, ([, isNow], [wasOpen]) => {
    // Of an open show somebody wants it planned by itself from now on.
    if (wasOpen && isNow) staysAsItIs.value = false
    takeUp()
  })

  async function ask({ isLookedAt = false } = {}): Promise<void> {
    asked = question.value
    askedAt = performance.now()
    staysAsItIs.value = isLookedAt && areCellsPlanned.value && store.verdict.state !== 'fails'
    const own = asked
    conflicts.value = ''
    obstacles.value = []
    nearest.value = undefined
    areGainsKnown.value = false
    if (own === '') {
      result.value = undefined
      marginals.value = []
      gains.value = []
      isWorking.value = false
      await plannerWorker().stop()
      return
    }
    isWorking.value = true
    await plannerWorker().plan(
      forWorker(store.show),
      proxy((news: PlannerNews) => {
        if (own === asked) hear(news)
      }),
    )
  }

  function hear(news: PlannerNews): void {
    switch (news.about) {
      case 'plan':
        result.value = news.result
        if (news.isLast) isWorking.value = false
        if (news.isLast || performance.now() - askedAt > patienceMilliseconds) takeUp()
        break
      case 'conflicts':
        conflicts.value = news.words
        break
      case 'obstacles':
        obstacles.value = news.words
        break
      case 'nearest':
        nearest.value = { words: news.words, parts: news.parts }
        takeUp()
        break
      case 'marginals':
        marginals.value = news.marginals
        break
      case 'gains':
        gains.value = news.gains
        areGainsKnown.value = news.isLast
        break
    }
  }

  /** Puts what was found into the show, as part of the edit that asked for it. */
  function takeUp(): void {
    const parts = foundParts.value
    if (staysAsItIs.value) return
    if (isAutomatic.value && parts && !(isCarried.value && areCellsPlanned.value))
      store.followUp((show) => withPlan(show, parts))
  }

  /** Plans once more without regard to the last plan, which is else changed no more than it has to be. */
  function planAfresh(): void {
    store.edit('Plan afresh', (draft) => {
      for (const { plan } of [...draft.destinations, ...draft.recordings]) plan.planned = false
    })
    void ask()
  }

  /** Carries the plan out once, for a show whose cells are set by hand. */
  function carryOut(): void {
    if (foundParts.value) choose(planLabel, foundParts.value)
  }

  function choose(label: string, parts: PlanParts): void {
    store.edit(label, (draft) => {
      const planned = withPlan(draft as Show, parts)
      draft.destinations = planned.destinations
      draft.recordings = planned.recordings
      // Else the planner would at once put its own in place of it.
      if (label !== planLabel) draft.fit.automatic = false
    })
  }

  /** Changes the show as a way to gain says; undo leads back. */
  async function tryWay(id: string): Promise<void> {
    // By name, so that nothing else of that room comes with it; and only here, since no first view needs it.
    const { possibleImprovements } = await import('@green-mantle/core/plan')
    const way = possibleImprovements(store.show).find((candidate) => candidate.id === id)
    if (!way) return
    lastTried.value = { label: way.label, before: planRows(store.show, planOf(store.show)) }
    store.edit(way.label, (draft) => {
      Object.assign(draft, way.change(JSON.parse(JSON.stringify(draft)) as Show))
    })
  }

  /** The next step up of a destination, and what it costs the others. */
  const nextStep = (destinationId: string): Promise<NextStep | null> =>
    plannerWorker().nextStep(forWorker(store.show), destinationId)

  /** Gives up a search that takes long; what it has is kept. */
  async function stop(): Promise<void> {
    isWorking.value = false
    takeUp()
    await plannerWorker().stop()
  }

  return {
    want,
    result,
    isWorking,
    isAutomatic,
    isCarried,
    staysAsItIs,
    canPlan,
    conflicts,
    obstacles,
    nearest,
    marginals,
    gains,
    areGainsKnown,
    tried,
    planAfresh,
    carryOut,
    choose,
    tryWay,
    nextStep,
    stop,
  }
})
