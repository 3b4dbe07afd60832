import { plannedDemoShow } from '@green-mantle/demo'
import { fitShow, withPlan } from '@green-mantle/core/plan'
import type { Show } from '@green-mantle/core/show'
import {
  byFrames,
  inSteps,
  mediumClasses,
  type NightPlan,
  nightPlanOf,
  runNight,
  type Way,
} from '@green-mantle/core/simulation'
import type { Area, Figure } from './figure'

const startsAtHour = 21
const planned = (show: Show): Show => withPlan(show, fitShow(show).parts ?? [])

/** Two hours and eight sends on a line that carries them. */
function eightSends(): NightPlan {
  const plan = nightPlanOf(planned(plannedDemoShow), startsAtHour)
  const sends = Array.from({ length: 8 }, (_, index) => {
    const model = plan.sends[index % plan.sends.length]!
    return { ...model, key: `${index}`, destinationId: `${index}`, framesPerSecond: 60 }
  })
  const total = sends.reduce((sum, { fullKbps }) => sum + fullKbps, 0)
  return { ...plan, sends, line: { ...plan.line, levels: [{ kbps: total * 1.45, weight: 1 }] } }
}

/** What one pass over as many frames costs that does nothing but add them up. */
function plainLoop(plan: NightPlan): number {
  const started = performance.now()
  let kbit = 0
  for (const { framesPerSecond, fullKbps } of plan.sends)
    for (let frame = 0; frame < framesPerSecond * plan.seconds; frame += 1)
      kbit += fullKbps / framesPerSecond
  if (kbit < 0) throw new Error('never')
  return performance.now() - started
}

function perNight(plan: NightPlan, way: Way, nights: number): number {
  runNight(plan, 1, 9999, way)
  const started = performance.now()
  for (let night = 0; night < nights; night += 1) runNight(plan, 1, night, way)
  return (performance.now() - started) / nights
}

/** Nights in steps and frame by frame, calm and rough, beside a plain loop over as many frames. */
const area: Area = () => {
  const calm = eightSends()
  const rough: NightPlan = { ...calm, line: { ...calm.line, ...mediumClasses.mobile } }
  const never: NightPlan = {
    ...calm,
    line: { ...calm.line, levels: [{ kbps: calm.line.levels[0]!.kbps * 0.66, weight: 1 }] },
  }
  const plain = plainLoop(calm)
  const figures: Figure[] = [{ name: 'plain_loop', value: plain, unit: 'ms' }]
  for (const [name, plan] of [
    ['cable', calm],
    ['mobile', rough],
    ['never_enough', never],
  ] as const) {
    const steps = perNight(plan, inSteps, 30)
    const frames = perNight(plan, byFrames, 3)
    figures.push(
      { name: `${name}.in_steps`, value: steps, unit: 'ms a night' },
      { name: `${name}.in_steps_cost`, value: steps / plain, unit: 'plain loops' },
      { name: `${name}.by_frames`, value: frames, unit: 'ms a night' },
      { name: `${name}.by_frames_cost`, value: frames / plain, unit: 'plain loops' },
    )
  }
  figures.push({ name: 'memory', value: process.memoryUsage().rss / 1e6, unit: 'MB' })
  return Promise.resolve(figures)
}
export default area
