import { fittingAside, type FitResult } from '../fitShow'
import { scoreUnitsPerPoint, type Worth } from '../problem/problem'
import { withPlan } from '../showPlan'
import { type Improvement, possibleImprovements } from './improvements'
import type { PlannedShow } from '../problem/renditionRequests'

/** What a change would bring, found by planning again. */
export interface Gain {
  id: string
  label: string
  note: string
  /** Whether only with it there is a plan at all that keeps what has to be kept; then the rest is said of that plan alone. */
  opensPlan: boolean
  /** Priority-weighted points of picture score more, in all. */
  points: number
  /** Priority-weighted destinations and recordings more that there is room for. */
  keptWeight: number
  aboveFloor: number
  encodesFewer: number
  freedKbps: number
  /** Whether it does without somebody; what that one had is not counted in the points. */
  drops: boolean
  /** The headroom that it leaves; null where it is about something else. */
  headroomPercent: number | null
  /** Whether a better plan than the one found may exist after the change. */
  isAtLeast: boolean
}

/** The effect of a change, the present plan against the one after it. */
export function gainOf(way: Improvement, before: FitResult, after: FitResult): Gain | null {
  if (!after.worth) return null
  const nothing: Worth = { leftOutWeight: 0, belowFloor: 0, scoreUnits: 0, encodes: 0, kbps: 0 }
  const [from, to] = [before.worth ?? nothing, after.worth]
  const less = (of: (worth: Worth) => number): number => of(from) - of(to)
  const dropped = way.drops === undefined ? 0 : (before.unitsById[way.drops] ?? 0)
  return {
    id: way.id,
    label: way.label,
    note: way.note,
    opensPlan: before.worth === null,
    points: (dropped - less(({ scoreUnits }) => scoreUnits)) / scoreUnitsPerPoint,
    drops: way.drops !== undefined,
    headroomPercent: way.headroomPercent ?? null,
    keptWeight: less(({ leftOutWeight }) => leftOutWeight),
    aboveFloor: less(({ belowFloor }) => belowFloor),
    encodesFewer: less(({ encodes }) => encodes),
    freedKbps: before.uploadKbps - after.uploadKbps,
    isAtLeast: after.status.name === 'stopped',
  }
}

/** The better the effect, the earlier: what there is room for, the floor, the score, encodes, upload. */
export const compareGains = (a: Gain, b: Gain): number =>
  Number(b.opensPlan) - Number(a.opensPlan) ||
  b.keptWeight - a.keptWeight ||
  b.aboveFloor - a.aboveFloor ||
  b.points - a.points ||
  b.encodesFewer - a.encodesFewer ||
  b.freedKbps - a.freedKbps

/**
 * Every way with its effect, the best first; each is planned for in turn. Yields them whenever there is
 * one more, and null in between, so that it can be stopped.
 */
export function* gainsOf(show: PlannedShow, present: FitResult): Generator<Gain[] | null, Gain[]> {
  const gains: Gain[] = []
  // By the time a way is tried the planner has put its plan into the show, unless cells are set by hand.
  const tried = show.fit.automatic && present.parts !== null ? withPlan(show, present.parts) : show
  for (const way of possibleImprovements(tried)) {
    const gain = gainOf(way, present, yield* fittingAside(way.change(tried)))
    if (gain) gains.push(gain)
    gains.sort(compareGains)
    yield [...gains]
  }
  return gains
}
