import { startOf } from '@green-mantle/core/destinations'
import {
  enoughHeadroom,
  type HeadroomPoint,
  headroomsTried,
  rankedRemedies,
  rehearsalKey,
  type RemedyResult,
  remediesFor,
  wishKey,
} from '@green-mantle/core/rehearsal'
import { knowsHowLow } from '@green-mantle/core/network'
import { lineOf, type Show } from '@green-mantle/core/show'
import {
  manyNights,
  missingForNight,
  nightsFromTheFirst,
  type NightSummary,
} from '@green-mantle/core/simulation'
import { watchDebounced } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { wordsFor } from '~/api/problem'
import type { LookedAtNight } from '~/workers/rehearsal.worker'
import { newRehearsalWorker } from '~/workers/workers'
import { useShowStore } from './show'

export const nightsWanted = 1000
/** Of these the first answer comes soon. */
const nightsAtOnce = 25
/** At each headroom; a point is given up sooner once it is settled. */
const nightsAHeadroom = 400
/** What is said on Fit of less headroom rests on so many. */
const nightsAWay = 100
/** A remedy is told from no remedy by so many. */
const nightsARemedy = 300

type Crew = ReturnType<typeof newRehearsalWorker>[]

/** As many as there are cores, less one for the page where that leaves two. */
const crewSize = (): number => {
  const cores = navigator.hardwareConcurrency || 2
  return Math.max(1, Math.min(4, cores > 2 ? cores - 1 : cores))
}

/** The part of a show that nights are computed from, as plain data. */
const forWorker = (show: Show): Show =>
  JSON.parse(
    JSON.stringify({ ...show, sources: [], scenes: [], sounds: [], keptPlans: [] }),
  ) as Show

/** Nights of the open show: the one that is looked at, and many at once. */
export const useRehearsalStore = defineStore('rehearsal', () => {
  const store = useShowStore()
  const night = ref(0)
  const isByFrames = ref(false)
  const looked = shallowRef<LookedAtNight>()
  const isLooking = ref(false)
  const problem = ref('')
  const summaries = shallowRef<NightSummary[]>([])
  const running = ref<'nights' | 'headroom' | 'remedies'>()
  const foundHeadrooms = shallowRef<{ of: string; points: HeadroomPoint[] }>()
  const remedies = shallowRef<RemedyResult[]>([])
  const areRemediesKnown = ref(false)
  /** What the many nights are of. */
  const summariesKey = ref('')

  /** Whether Rehearse is open. */
  const isWanted = ref(false)

  let looking: Crew[number] | undefined
  let crew: Crew = []

  const missing = computed(() => (store.isOpen ? missingForNight(store.show) : ['a show']))
  const key = computed(() =>
    store.isOpen && missing.value.length === 0 ? rehearsalKey(store.show) : '',
  )
  const startsAtHour = (): number => {
    const start = startOf(store.show)
    return start.getUTCHours() + start.getUTCMinutes() / 60
  }
  const many = computed(() => manyNights(summaries.value))
  const isOfThisPlan = computed(() => summariesKey.value === key.value)
  /** They hold until what the wish hangs on changes; setting one of them is no such change. */
  const headrooms = computed(() => {
    const found = foundHeadrooms.value
    return store.isOpen && found?.of === wishKey(store.show) ? found.points : []
  })
  const enough = computed(() =>
    store.isOpen ? enoughHeadroom(headrooms.value, store.show.rehearsal.wantedPercent) : null,
  )

  async function look(number = night.value): Promise<void> {
    if (key.value === '') {
      looked.value = undefined
      return
    }
    const asked = `${key.value} ${number} ${isByFrames.value}`
    lastAsked = asked
    isLooking.value = true
    looking ??= newRehearsalWorker()
    try {
      const found = await looking.remote.night(
        forWorker(store.show),
        startsAtHour(),
        number,
        isByFrames.value,
      )
      if (lastAsked !== asked) return
      looked.value = found
      night.value = number
      problem.value = ''
    } catch (error) {
      problem.value = wordsFor(error)
    } finally {
      if (lastAsked === asked) isLooking.value = false
    }
  }
  let lastAsked = ''

  /**
   * The share of nights that stay clean with another headroom, planned anew; null where nothing can be
   * rehearsed, or where it is not wanted any more: its worker ends with the signal.
   */
  async function shareAt(
    percent: number,
    signal: AbortSignal,
  ): Promise<HeadroomPoint['share'] | null> {
    if (key.value === '' || signal.aborted) return null
    const worker = newRehearsalWorker()
    // A worker that was ended never answers.
    const notWanted = new Promise<null>((resolve) =>
      signal.addEventListener('abort', () => resolve(null), { once: true }),
    )
    try {
      const [show, hour] = [forWorker(store.show), startsAtHour()]
      const point = await Promise.race([
        worker.remote.headroomPoint(show, hour, percent, nightsAWay),
        notWanted,
      ])
      return point && (point.anew ?? point.share)
    } finally {
      worker.end()
    }
  }

  /** Another night of the same seed, or with a seed of its own where one is given. */
  const another = (): Promise<void> => look(night.value + 1)

  /** A worker that was ended never answers, so that whoever waits for it has to be told. */
  let tellStopped = (): void => {}
  /** What it runs for. */
  let runningKey = ''

  function stop(): void {
    for (const { end } of crew) end()
    crew = []
    running.value = undefined
    tellStopped()
  }

  /** Shares pieces of work out among workers; stops early where `stop` was called meanwhile. */
  async function shareOut<Piece>(
    what: NonNullable<typeof running.value>,
    pieces: readonly Piece[],
    work: (member: Crew[number], piece: Piece) => Promise<void>,
  ): Promise<boolean> {
    stop()
    const own = Array.from({ length: crewSize() }, newRehearsalWorker)
    crew = own
    running.value = what
    runningKey = key.value
    problem.value = ''
    const queue = [...pieces]
    const stopped = new Promise<void>((resolve) => {
      tellStopped = resolve
    })
    const allDone = async (): Promise<void> => {
      await Promise.all(
        own.map(async (member) => {
          for (let piece = queue.shift(); piece !== undefined; piece = queue.shift()) {
            if (crew !== own) return
            await work(member, piece)
          }
        }),
      )
    }
    try {
      await Promise.race([allDone(), stopped])
    } catch (error) {
      problem.value = wordsFor(error)
    }
    const isDone = crew === own && problem.value === ''
    if (crew === own) stop()
    return isDone
  }

  async function runNights(count = nightsWanted): Promise<void> {
    const show = forWorker(store.show)
    const hour = startsAtHour()
    const own = key.value
    summaries.value = []
    summariesKey.value = own
    const starts = Array.from(
      { length: Math.ceil(count / nightsAtOnce) },
      (_, index) => index * nightsAtOnce,
    )
    await shareOut('nights', starts, async ({ remote }, from) => {
      const found = await remote.nights(show, hour, from, Math.min(count, from + nightsAtOnce))
      if (summariesKey.value === own && running.value === 'nights')
        summaries.value = [...summaries.value, ...found]
    })
    keepResult(own)
  }

  /** What was found is kept with the show, also where it was stopped in the middle. */
  function keepResult(planKey: string): void {
    const { nights, clean } = many.value
    if (nights === 0 || key.value !== planKey) return
    store.edit('Rehearse', (draft) => {
      draft.rehearsal.last = { planKey, nights, clean, at: new Date().toISOString() }
    })
  }

  /** Whether it was found for every headroom, and not stopped before. */
  async function findHeadroom(): Promise<boolean> {
    const show = forWorker(store.show)
    const hour = startsAtHour()
    const of = wishKey(store.show)
    foundHeadrooms.value = { of, points: [] }
    return shareOut('headroom', headroomsTried, async ({ remote }, percent) => {
      const point = await remote.headroomPoint(show, hour, percent, nightsAHeadroom)
      if (running.value === 'headroom')
        foundHeadrooms.value = {
          of,
          points: [...(foundHeadrooms.value?.points ?? []), point].sort(
            (a, b) => a.percent - b.percent,
          ),
        }
    })
  }

  function setHeadroom(percent: number): void {
    store.edit(`Set the headroom to ${percent} %`, (draft) => {
      lineOf(draft).headroomPercent = percent
    })
  }
  /** Whether what is enough is less than there is, on the strength of too few measurements. */
  const isTooRisky = computed(
    () =>
      enough.value !== null &&
      enough.value.percent < store.line.headroomPercent &&
      !knowsHowLow(store.line),
  )

  /**
   * Finds the headroom anew where it is to follow the wish and something that the wish hangs on has
   * changed; sets it where enough is known. Not where cells are set by hand: a headroom alone would
   * change nothing of what is sent.
   */
  async function follow(): Promise<void> {
    const { rehearsal, fit } = store.show
    if (!rehearsal.headroomFollows) followed = ''
    if (!rehearsal.headroomFollows || !fit.automatic || running.value !== undefined) return
    const asked = wishKey(store.show)
    if (asked === followed) return
    followed = asked
    const isDone = await findHeadroom()
    if (!isDone || asked !== wishKey(store.show) || !enough.value || isTooRisky.value) return
    if (enough.value.percent !== store.line.headroomPercent) setHeadroom(enough.value.percent)
  }
  let followed = ''
  watchDebounced(
    () => [
      isWanted.value && running.value === undefined && key.value !== '' && store.isOpen
        ? store.show.rehearsal.headroomFollows && wishKey(store.show)
        : '',
    ],
    () => void follow(),
    { debounce: 800 },
  )

  async function tryRemedies(): Promise<void> {
    const show = forWorker(store.show)
    const hour = startsAtHour()
    const own = key.value
    remedies.value = []
    areRemediesKnown.value = false
    const before = nightsFromTheFirst(summaries.value, nightsARemedy)
    const isDone = await shareOut(
      'remedies',
      remediesFor(show).map(({ id }) => id),
      async ({ remote }, id) => {
        const result = await remote.remedy(show, hour, id, before)
        if (result && running.value === 'remedies')
          remedies.value = rankedRemedies([...remedies.value, result])
      },
    )
    areRemediesKnown.value = isDone && key.value === own
  }

  function takeRemedy(id: string): void {
    const remedy = remediesFor(store.show).find((each) => each.id === id)
    if (remedy) store.edit(remedy.label, (draft) => remedy.change(draft as Show))
  }

  /** All of it, one after the other: nights, headroom, remedies. */
  async function runAll(): Promise<void> {
    await runNights()
    if (summaries.value.length < nightsWanted || !isOfThisPlan.value) return
    await tryRemedies()
  }

  // What stands in the chart follows the show.
  watchDebounced(
    key,
    () => {
      if (isWanted.value) void look()
      // What was begun since is of the show as it is now.
      if (running.value && runningKey !== key.value) stop()
      if (summariesKey.value !== key.value) {
        remedies.value = []
        areRemediesKnown.value = false
      }
    },
    { debounce: 250 },
  )
  function want(): void {
    isWanted.value = true
    void look()
  }
  /** Ends what runs for nobody. */
  function leave(): void {
    isWanted.value = false
    stop()
    looking?.end()
    looking = undefined
    // The next show that is opened has nights of its own.
    looked.value = undefined
  }

  return {
    night,
    isByFrames,
    looked,
    isLooking,
    problem,
    missing,
    key,
    summaries,
    many,
    isOfThisPlan,
    running,
    headrooms,
    shareAt,
    enough,
    isTooRisky,
    setHeadroom,
    remedies,
    areRemediesKnown,
    look,
    another,
    stop,
    runNights,
    runAll,
    findHeadroom,
    tryRemedies,
    takeRemedy,
    want,
    leave,
  }
})
