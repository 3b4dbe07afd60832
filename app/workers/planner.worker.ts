import {
  conflictsInWords,
  findingConflicts,
  findingNearestPlan,
  findingNextStep,
  type FitResult,
  fittingShow,
  type Gain,
  gainsOf,
  type Marginal,
  marginalsOf,
  nearestInWords,
  type NextStep,
  obstaclesOf,
  type PlannedShow,
  type PlanParts,
} from '@green-mantle/core/plan'
import type { Show } from '@green-mantle/core/show'
import { expose } from 'comlink'

/** What is told while a show is planned: each in turn, and again whenever it is known better. */
export type PlannerNews =
  | { about: 'plan'; result: FitResult; isLast: boolean }
  | { about: 'conflicts'; words: string }
  /** Why no plan can have what it leaves out, where it is more than want of room. */
  | { about: 'obstacles'; words: string[] }
  /** How much upload must-keeps would need more, and the plan with it; null where no upload would do. */
  | { about: 'nearest'; words: string; parts: PlanParts | null }
  | { about: 'marginals'; marginals: Marginal[]; isLast: boolean }
  | { about: 'gains'; gains: Gain[]; isLast: boolean }

/** The number of the newest request; work for an older one is given up. */
let newest = 0
/** The number of the newest question for a next step. */
let newestStep = 0
const longestWithoutLookMilliseconds = 12
/** What is said about a plan is worked out when the show has stayed the same for so long. */
const restMilliseconds = 150

const pause = (milliseconds = 0): Promise<void> =>
  new Promise((resolve) => setTimeout(resolve, milliseconds))

/** Lets messages in between slices of work; tells whether this request is still the newest. */
function slicer(request: number): () => Promise<boolean> {
  let since = performance.now()
  return async () => {
    if (performance.now() - since > longestWithoutLookMilliseconds) {
      await pause()
      since = performance.now()
    }
    return request === newest
  }
}

async function plan(show: PlannedShow, tell: (news: PlannerNews) => void): Promise<void> {
  newest += 1
  const isNewest = slicer(newest)
  const run = fittingShow(show)
  let step = run.next()
  let told: FitResult | null = null
  for (;;) {
    // Before there is a plan there is nothing to tell, unless that there will be none.
    if (step.done || (step.value.parts && step.value !== told)) {
      told = step.value
      tell({ about: 'plan', result: step.value, isLast: step.done === true })
    }
    if (step.done) break
    if (!(await isNewest())) return
    step = run.next()
  }
  const present = step.value
  // While something is dragged the next plan is wanted soon, and the page wants the processor too.
  await pause(restMilliseconds)
  if (!(await isNewest())) return
  if (present.worth === null) {
    const finding = findingNearestPlan(show)
    let look = finding.next()
    for (; !look.done; look = finding.next()) if (!(await isNewest())) return
    const parts = look.value.result?.parts ?? null
    tell({ about: 'nearest', words: nearestInWords(look.value), parts })
  }
  if (present.worth === null || present.worth.leftOutWeight > 0) {
    const obstacles = obstaclesOf(show)
    tell({ about: 'obstacles', words: obstacles.map(({ words }) => words) })
    if (!(await isNewest())) return
    // What can't be had at all would be part of every set of what collides.
    if (obstacles.length === 0) {
      const finding = findingConflicts(show)
      let look = finding.next()
      for (; !look.done; look = finding.next()) if (!(await isNewest())) return
      tell({ about: 'conflicts', words: conflictsInWords(look.value) })
    }
  }
  for (const marginals = marginalsOf(show, present); ;) {
    if (!(await isNewest())) return
    const { value, done } = marginals.next()
    if (value) tell({ about: 'marginals', marginals: value, isLast: done === true })
    if (done) break
  }
  for (const gains = gainsOf(show, present); ;) {
    if (!(await isNewest())) return
    const { value, done } = gains.next()
    if (value) tell({ about: 'gains', gains: value, isLast: done === true })
    if (done) break
  }
}

/** Gives up what is being planned. */
function stop(): void {
  newest += 1
}

/** Given up when another is asked for, or another show is planned. */
async function nextStep(show: Show, destinationId: string): Promise<NextStep | null> {
  newestStep += 1
  const [own, request] = [newestStep, newest]
  const isNewest = slicer(request)
  const finding = findingNextStep(show, destinationId)
  for (let look = finding.next(); ; look = finding.next()) {
    if (look.done) return look.value
    if (!(await isNewest()) || own !== newestStep) return null
  }
}

const worker = { plan, stop, nextStep }
export type PlannerWorker = typeof worker
expose(worker)
