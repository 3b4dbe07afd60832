import { showProblem } from '../core/plan/problem/showProblem'
import { solving } from '../core/plan/search/solve'
import { randomShow } from '../core/plan/tests/testShows'

/** Run in a process of its own, whose code nothing has compiled yet: milliseconds until the first plan of a show. */
const seed = Number(process.argv[2])
const show = randomShow(8000 + seed, {
  ...{ destinations: 8, grain: 'fine', relay: true, pins: true, marginPoints: 0.5 },
  recording: seed % 2 === 0,
})
const since = performance.now()
const { problem, preferences } = showProblem(show)
const run = solving(problem, preferences)
for (let step = run.next(); !step.done && !step.value.solution; step = run.next());
console.log(performance.now() - since)
