import { startOf } from '@green-mantle/core/destinations'
import {
  betterTogether,
  enoughHeadroom,
  finalistsOf,
  type HeadroomPoint,
  headroomsTogether,
  headroomsTried,
  type JointChoice,
  jointChoiceOf,
  type JointResult,
  jointTrial,
  rankedRemedies,
  rehearsalKey,
  type RemedyResult,
  remediesFor,
  wishKey,
  withWays,
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
import { newRehearsalCrew, type RehearsalCrew } from './rehearsalCrew'
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
  const summaries = shallowRef<NightSummary[]>([])
  const foundHeadrooms = shallowRef<{ of: string; points: HeadroomPoint[] }>()
  const remedies = shallowRef<RemedyResult[]>([])
  const areRemediesKnown = ref(false)
  const foundTogether = shallowRef<{ of: string; now: JointResult; better: JointResult[] }>()
  /** What the many nights are of. */
  const summariesKey = ref('')

  /** Whether Rehearse is open. */
  const isWanted = ref(false)

  let looking: RehearsalCrew[number] | undefined

  const missing = computed(() => (store.isOpen ? missingForNight(store.show) : ['a show']))
  const key = computed(() =>
    store.isOpen && missing.value.length === 0 ? rehearsalKey(store.show) : '',
  )
  const crew = newRehearsalCrew(() => key.value)
  const { running, problem, stop, shareOut } = crew
  const startsAtHourNow = (): number => {
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
        startsAtHourNow(),
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
      const [show, hour] = [forWorker(store.show), startsAtHourNow()]
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

  async function runNights(count = nightsWanted): Promise<void> {
    const show = forWorker(store.show)
    const hour = startsAtHourNow()
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
    const hour = startsAtHourNow()
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
    const hour = startsAtHourNow()
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

  const together = computed(() =>
    foundTogether.value?.of === key.value ? foundTogether.value : undefined,
  )

  /** Headroom and who lowers, chosen together: few nights for every choice, many for the best of them. */
  async function findTogether(): Promise<void> {
    const show = forWorker(store.show)
    const startsAtHour = startsAtHourNow()
    const of = key.value
    const now = jointChoiceOf(show)
    const first: JointResult[] = []
    const percents = headroomsTogether(show, knowsHowLow(store.line))
    const isSeen = await shareOut('together', percents, async ({ remote }, percent) => {
      const nights = jointTrial.nightsFirst
      first.push(...(await remote.jointlyAt(show, percent, { nights, startsAtHour })))
    })
    if (!isSeen || key.value !== of) return
    const finalists: JointChoice[] = [now, ...finalistsOf(first, jointTrial.finalists)]
    const found: JointResult[] = []
    const isDone = await shareOut('together', finalists, async ({ remote }, choice) => {
      const { nights } = jointTrial
      const result = await remote.jointResult(show, choice, { nights, startsAtHour })
      if (choice === now) found.unshift(result)
      else found.push(result)
    })
    const [ofNow, ...others] = found
    if (!isDone || !ofNow) return
    const better = betterTogether(ofNow, others, show.rehearsal.wantedPercent)
    foundTogether.value = { of, now: ofNow, better }
  }

  function takeTogether({ headroomPercent, lowering }: JointChoice): void {
    store.edit(`Set ${headroomPercent} % headroom, and who lowers`, (draft) => {
      lineOf(draft).headroomPercent = headroomPercent
      draft.destinations = withWays(draft as Show, lowering).destinations
    })
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
      if (running.value && crew.isOutOfDate()) stop()
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
    together,
    findTogether,
    takeTogether,
    want,
    leave,
  }
})
