import { execFileSync } from 'node:child_process'
import highsLoader from 'highs'
import { type SolveProgram, worthByIntegerProgram } from '../core/plan/tests/integerProgram'
import { showProblem } from '../core/plan/problem/showProblem'
import { solving } from '../core/plan/search/solve'
import { randomShow } from '../core/plan/tests/testShows'
import type { PlannedShow } from '../core/plan/problem/renditionRequests'
import type { Destination, Rendition } from '../core/show'
import { plannedDemoShow } from '../demo'
import { root } from '../scripts/paths'
import type { Area, Figure } from './figure'

/** How many shows there are of each number of destinations; more destinations take longer. */
const ordinary = { 2: 10, 4: 10, 8: 10, 12: 20, 20: 10, 30: 4 } as const
const belowFloor = { 4: 5, 8: 5, 12: 5, 20: 3, 30: 1 } as const
/**
 * HiGHS lists every choice, which takes it a minute and more; so it gets few of the same problems, and
 * some of coarser shows, which it finishes.
 */
const besideHighs = [
  { destinations: 2, grain: 'fine', count: 3 },
  { destinations: 4, grain: 'fine', count: 3 },
  { destinations: 8, grain: 'fine', count: 1 },
  { destinations: 2, grain: 'coarse', count: 4 },
  { destinations: 4, grain: 'coarse', count: 4 },
  { destinations: 6, grain: 'coarse', count: 4 },
] as const
const highsSeconds = 60

const quantile = (values: readonly number[], share: number): number =>
  [...values].sort((a, b) => a - b)[
    Math.min(values.length - 1, Math.floor(values.length * share))
  ] ?? 0

const freshProcesses = 10

/** The first plan of eight, each in a process that has just begun: as in a page that was just opened. */
function inFreshProcesses(): Figure[] {
  const times = Array.from({ length: freshProcesses }, (_, seed) =>
    Number(
      execFileSync(process.execPath, ['--import', 'tsx', 'bench/freshPlan.ts', `${seed + 1}`], {
        cwd: root,
        encoding: 'utf8',
      }),
    ),
  )
  return [
    { name: 'fresh_process_8_first_plan_median', value: quantile(times, 0.5), unit: 'ms' },
    { name: 'fresh_process_8_first_plan_worst', value: Math.max(...times), unit: 'ms' },
  ]
}

/** The shows that are planned: on both canvases, with three devices, pins and a relay. */
const showFor = (destinations: number, seed: number, grain: 'fine' | 'coarse' = 'fine') =>
  randomShow(1000 * destinations + seed, {
    ...{ destinations, grain, relay: true, pins: true },
    recording: seed % 2 === 0,
    marginPoints: 0.5,
  })

const alike = (count: number, relay: boolean): PlannedShow => {
  const show = randomShow(1, { destinations: 1, grain: 'fine', relay, marginPoints: 0.5 })
  const [first, ...relays] = show.destinations as [Destination, ...Destination[]]
  const plan = { ...first.plan, routePinned: !relay }
  const sizes = [
    { width: 1920, height: 1080 },
    { width: 1280, height: 720 },
  ]
  const rules = { ...first.rules, sizes: { type: 'one of' as const, sizes } }
  const renditions = first.renditions
    .slice(0, 1)
    .map((each) => ({ ...each, ...sizes[1]!, pins: [] }))
  const sends = Array.from({ length: count }, (_, index) => ({
    ...{ ...first, plan, rules, renditions, canvas: 'landscape' as const },
    ...{ id: `alike-${index}`, name: `Place ${index + 1}` },
  }))
  const fed = relays.map((each) => ({ ...each, rules: { ...each.rules, mostFed: count } }))
  const [line] = show.lines as [PlannedShow['lines'][number]]
  const samples = line.samples.map((sample) => ({ ...sample, uploadKbps: 2500 * count }))
  return { ...show, destinations: [...sends, ...fed], lines: [{ ...line, samples }] }
}

/** On a line that leaves most of them below the floor. */
const short = (show: PlannedShow): PlannedShow => ({
  ...show,
  lines: show.lines.map((line) => ({
    ...line,
    samples: line.samples.map((sample) => ({ ...sample, uploadKbps: sample.uploadKbps / 4 })),
  })),
})

/** Of one profile, and of all priorities. */
const ofAllPriorities = (show: PlannedShow): PlannedShow => ({
  ...show,
  destinations: show.destinations.map((destination, index) => ({
    ...destination,
    plan: { ...destination.plan, priority: 1 + (index % 5) },
  })),
})

/** On devices whose efforts hardly differ in speed, so that many plans are nearly alike. */
const nearEqualEfforts = (show: PlannedShow): PlannedShow => ({
  ...show,
  computer: {
    ...show.computer,
    devices: show.computer.devices.map((device) => ({
      ...device,
      throughputs: device.throughputs.map((each, index) => ({
        ...each,
        megapixelsPerSecond: 400 + (index % 5),
      })),
    })),
  },
})

/** Every send a ladder of three. */
const ladders = (count: number): PlannedShow => {
  const show = ofAllPriorities(alike(count, false))
  const steps = [
    { width: 1280, height: 720 },
    { width: 640, height: 360 },
    { width: 426, height: 240 },
  ]
  return {
    ...show,
    destinations: show.destinations.map((destination) => ({
      ...destination,
      rules: { ...destination.rules, mostRenditions: 3, sizes: { type: 'one of', sizes: steps } },
      renditions: steps.map((size, step) => ({
        ...(destination.renditions[0] as Rendition),
        ...size,
        id: `${destination.id}-${step}`,
        pins: [],
      })),
    })),
  }
}

/** The demo with everything on and six tenths of its line left alone. */
const demoAllOn: PlannedShow = {
  ...plannedDemoShow,
  destinations: plannedDemoShow.destinations.map((each) => ({ ...each, on: true })),
  recordings: plannedDemoShow.recordings.map((each) => ({ ...each, on: true })),
  lines: plannedDemoShow.lines.map((line) => ({ ...line, headroomPercent: 60 })),
}

const repeated = (
  counts: Readonly<Record<number, number>>,
  name: string,
  make: (show: PlannedShow) => PlannedShow = (show) => show,
): [string, PlannedShow[]][] =>
  Object.entries(counts).map(([size, count]) => [
    `${size}_${name}`,
    Array.from({ length: count }, (_, index) => make(showFor(Number(size), index + 1))),
  ])

/** Every regime with its shows: those that chance makes, and those in which search is hard. */
const regimes: [string, PlannedShow[]][] = [
  ...repeated(ordinary, 'ordinary'),
  ...repeated(belowFloor, 'below_floor', short),
  ['demo_all_on', [demoAllOn]],
  ...repeated({ 4: 5, 8: 5, 12: 5 }, 'near_equal_efforts', nearEqualEfforts),
  ...[8, 12, 16, 20, 50].map((count): [string, PlannedShow[]] => [
    `${count}_identical`,
    [alike(count, false)],
  ]),
  ...[12, 20, 50].map((count): [string, PlannedShow[]] => [
    `${count}_of_one_profile_below_floor`,
    [short(ofAllPriorities(alike(count, false)))],
  ]),
  ...[12, 20, 30].map((count): [string, PlannedShow[]] => [
    `relay_feeding_${count}`,
    [alike(count, true)],
  ]),
  ...[4, 8, 12].map((count): [string, PlannedShow[]] => [`${count}_ladders`, [ladders(count)]]),
]
/** Beyond this a plan is taken as it is. */
const maxSeconds = 5

/** Milliseconds of one plan: until the first is there, until all is, and between two chances to stop. */
interface Timing {
  first: number
  all: number
  longestStep: number
  isProven: boolean
}

/** Planned to the end, which is where it is proven to be within the margin of the best. */
function timed(show: PlannedShow): Timing {
  const start = performance.now()
  const { problem, preferences } = showProblem(show)
  let first: number | null = null
  const run = solving(problem, preferences)
  let longestStep = 0
  for (;;) {
    const since = performance.now()
    const { value, done } = run.next()
    longestStep = Math.max(longestStep, performance.now() - since)
    const all = performance.now() - start
    if (value.solution) first ??= all
    if (done || all > maxSeconds * 1000)
      return { first: first ?? all, all, longestStep, isProven: value.status.name !== 'stopped' }
  }
}

/**
 * The same show planned again and again, for a second and at least once more. A machine that others use
 * too takes half as long again for the same work from one second to the next; the least is what the work
 * takes once its code is compiled.
 */
function leastOf(first: Timing, show: PlannedShow): Timing {
  let [least, spent] = [first, first.all]
  do {
    const again = timed(show)
    spent += again.all
    least = {
      first: Math.min(least.first, again.first),
      all: Math.min(least.all, again.all),
      longestStep: Math.min(least.longestStep, again.longestStep),
      isProven: least.isProven || again.isProven,
    }
  } while (spent < 1000)
  return least
}

const figuresOf = (name: string, runs: readonly Timing[]): Figure[] => {
  const all = runs.map((run) => run.all)
  const first = runs.map((run) => run.first)
  return [
    { name: `${name}_median`, value: quantile(all, 0.5), unit: 'ms' },
    { name: `${name}_p90`, value: quantile(all, 0.9), unit: 'ms' },
    { name: `${name}_worst`, value: Math.max(...all), unit: 'ms' },
    { name: `${name}_first_plan_median`, value: quantile(first, 0.5), unit: 'ms' },
    { name: `${name}_first_plan_worst`, value: Math.max(...first), unit: 'ms' },
    {
      name: `${name}_longest_step`,
      value: Math.max(...runs.map((run) => run.longestStep)),
      unit: 'ms',
    },
    {
      name: `${name}_proven`,
      value: runs.filter(({ isProven }) => isProven).length / runs.length,
      unit: 'share',
    },
  ]
}

/**
 * Time to a first plan and to a proven optimum for shows made by chance; and how many times longer
 * HiGHS takes for an integer program of the same problems in the same run.
 */
const area: Area = async () => {
  // Each for the first time, by code that is compiled as it goes, as on a page that was just opened.
  const once = regimes.map(([, shows]) => shows.map(timed))
  const figures = regimes.flatMap(([name], regime) => figuresOf(name, once[regime] ?? []))
  figures.push(
    ...regimes.flatMap(([name, shows], regime) =>
      figuresOf(
        `${name}_least`,
        shows.map((show, index) => leastOf(once[regime]?.[index] as Timing, show)),
      ),
    ),
  )
  figures.push(...inFreshProcesses())
  figures.push({ name: 'memory', value: process.memoryUsage().heapUsed / 1e6, unit: 'MB' })
  // It takes most of the time of the whole area.
  if (process.env.BESIDE_HIGHS === '1') figures.push(...(await highsFigures()))
  return figures
}

/** How many times longer HiGHS takes where it proves its optimum in time, and on which share of the problems it does. */
async function highsFigures(): Promise<Figure[]> {
  const highs = await highsLoader()
  const figures: Figure[] = []
  for (const { destinations, grain, count } of besideHighs) {
    const ratios: number[] = []
    for (let seed = 1; seed <= count; seed += 1) {
      const show = showFor(destinations, seed, grain)
      const { all } = timed(show)
      const since = performance.now()
      const solveProgram: SolveProgram = (text) => {
        const leftSeconds = highsSeconds - (performance.now() - since) / 1000
        if (leftSeconds <= 0) return null
        const solved = highs.solve(text, { time_limit: leftSeconds })
        return solved.Status === 'Optimal' ? { objective: solved.ObjectiveValue } : null
      }
      if (worthByIntegerProgram(showProblem(show).problem, solveProgram))
        ratios.push((performance.now() - since) / all)
    }
    const name = `highs_${destinations}_destinations_${grain}`
    figures.push({ name: `${name}_finished`, value: ratios.length / count, unit: 'share' })
    if (ratios.length > 0)
      figures.push({ name: `${name}_over_ours`, value: quantile(ratios, 0.5), unit: 'times' })
  }
  return figures
}

export default area
