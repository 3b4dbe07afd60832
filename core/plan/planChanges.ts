import type { PlanRow } from './planSummary'

/** What a destination or recording gets in one plan and in another; null where it is not in the show. */
export interface PlanChange {
  id: string
  name: string
  from: PlanRow | null
  to: PlanRow | null
}

/** Everything that two plans give differently, in the order of the first. */
export function planChanges(before: readonly PlanRow[], after: readonly PlanRow[]): PlanChange[] {
  const rows = new Map<string, PlanChange>()
  for (const from of before) rows.set(from.id, { id: from.id, name: from.name, from, to: null })
  for (const to of after)
    rows.set(to.id, { id: to.id, name: to.name, from: rows.get(to.id)?.from ?? null, to })
  return [...rows.values()].filter(({ from, to }) => from?.words !== to?.words)
}

const points = (score: number): string => `${Math.round(score)}`

/** As in "Commonhall 85 → 90: 1280×720 …", "Rookery left out" or "Rookery no longer in the show". */
export function changeInWords({ name, from, to }: PlanChange): string {
  if (!to) return `${name} no longer in the show`
  if (to.score === null) return `${name} left out`
  if (from === null || from.score === null) return `${name} at ${points(to.score)}: ${to.words}`
  return `${name} ${points(from.score)} → ${points(to.score)}: ${to.words}`
}

/** Whom a change lifts, as in "Commonhall from 85 to 90", those it lifts most first; what does not show in whole points is left out. */
export const liftsInWords = (changes: readonly PlanChange[]): string[] =>
  changes
    .flatMap(({ name, from, to }) => {
      const [before, after] = [from?.score ?? null, to?.score ?? null]
      if (before === null || after === null) return []
      const rise = Math.round(after) - Math.round(before)
      return rise > 0 ? [{ rise, words: `${name} from ${points(before)} to ${points(after)}` }] : []
    })
    .sort((a, b) => b.rise - a.rise)
    .map(({ words }) => words)

/** Who is left out before a change and not after it. */
export const takenIn = (changes: readonly PlanChange[]): string[] =>
  changes.flatMap(({ name, from, to }) =>
    from !== null && from.score === null && to !== null && to.score !== null ? [name] : [],
  )
