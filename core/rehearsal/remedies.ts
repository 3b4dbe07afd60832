import { fitShow, type PlannedShow, withPlan } from '../plan'
import { isTaken, lineOf, type Show } from '../show'
import { missingForNight, type NightSummary } from '../simulation'
import { nightsOf } from './headroom'

/** One thing that may make more nights clean. */
export interface Remedy {
  id: string
  label: string
  note: string
  change(show: Show): Show
}

/** What a remedy does to the same nights. */
export interface RemedyResult {
  id: string
  label: string
  note: string
  nights: number
  clean: number
  /** Nights won by it, and lost. */
  won: number
  /** Σ score over the sends it leaves, against before; below zero where it costs. */
  points: number
}

const changeDestination = (
  show: Show,
  id: string,
  change: (destination: Show['destinations'][number]) => Show['destinations'][number],
): Show => ({
  ...show,
  destinations: show.destinations.map((destination) =>
    destination.id === id ? change(destination) : destination,
  ),
})
const changeLine = (
  show: Show,
  change: (line: Show['lines'][number]) => Show['lines'][number],
): Show => ({
  ...show,
  lines: show.lines.map((line) => (line === lineOf(show) ? change(line) : line)),
})

/** Planned anew where the show plans by itself, since a remedy may free what the plan then spends. */
const replanned = (show: Show): Show => {
  if (!show.fit.automatic) return show
  const { parts } = fitShow(show as PlannedShow)
  return parts ? withPlan(show, parts) : show
}

/** What can be tried for a show. */
export function remediesFor(show: Show): Remedy[] {
  const line = lineOf(show)
  const taken = show.destinations.filter(isTaken)
  const remedies: Remedy[] = []
  const stiff = taken.filter(
    ({ sending, connection, relayId }) =>
      sending.whenBehind !== 'lower' && connection !== 'hand-off' && relayId === null,
  )
  for (const { id, name } of stiff)
    remedies.push({
      id: `lower ${id}`,
      label: `Let ${name} lower its bitrate`,
      note: 'where its encoder can',
      change: (before) =>
        changeDestination(before, id, (each) => ({
          ...each,
          sending: { ...each.sending, whenBehind: 'lower' },
        })),
    })
  if (stiff.length > 1)
    remedies.push({
      id: 'lower all',
      label: 'Let every send lower its bitrate',
      note: 'where the encoders can',
      change: (before) => ({
        ...before,
        destinations: before.destinations.map((each) => ({
          ...each,
          sending: { ...each.sending, whenBehind: 'lower' as const },
        })),
      }),
    })
  for (const { id, name, sending } of taken)
    if (sending.whenBehind === 'drop' && sending.mostWaitSeconds < 4)
      remedies.push({
        id: `wait ${id}`,
        label: `A longer buffer for ${name}, 4.5 s`,
        note: 'viewers may get it later',
        change: (before) =>
          changeDestination(before, id, (each) => ({
            ...each,
            sending: { ...each.sending, mostWaitSeconds: 4.5 },
          })),
      })
  if (line.medium !== 'cable' && line.samples.some(({ medium }) => medium === 'cable'))
    remedies.push({
      id: 'cable',
      label: 'By cable',
      note: 'the measurements by cable alone',
      change: (before) => changeLine(before, (each) => ({ ...each, medium: 'cable' })),
    })
  for (const { id, name } of line.otherTraffic.filter(({ on }) => on))
    remedies.push({
      id: `traffic ${id}`,
      label: `${name} off the line`,
      note: 'the plan stays as it is',
      change: (before) =>
        changeLine(before, (each) => ({
          ...each,
          otherTraffic: each.otherTraffic.map((other) =>
            other.id === id ? { ...other, on: false } : other,
          ),
        })),
    })
  for (const { id, name, backupAddress } of taken)
    if (backupAddress !== null)
      remedies.push({
        id: `backup ${id}`,
        label: `${name} without its second ingest`,
        note: 'one send less; less safe when it hangs up',
        change: (before) =>
          changeDestination(before, id, (each) => ({ ...each, backupAddress: null })),
      })
  for (const { id, name, plan } of taken)
    if (taken.length > 1 && !plan.mustKeep)
      remedies.push({
        id: `without ${id}`,
        label: `Without ${name}`,
        note: 'the others keep their plan',
        change: (before) => changeDestination(before, id, (each) => ({ ...each, on: false })),
      })
  for (const relay of show.destinations.filter(
    ({ on, connection }) => on && connection === 'relay',
  ))
    for (const { id, name, canvas, relayId, connection, plan } of taken)
      if (
        relay.canvas === canvas &&
        relayId === null &&
        connection === 'address and key' &&
        !plan.routePinned
      )
        remedies.push({
          id: `relay ${relay.id} ${id}`,
          label: `${name} through ${relay.name}`,
          note: 'planned anew',
          change: (before) =>
            replanned(changeDestination(before, id, (each) => ({ ...each, relayId: relay.id }))),
        })
  return remedies
}

const scoreOf = (nights: readonly NightSummary[]): number => {
  const sum = nights.reduce(
    (total, { score }) => total + score.reduce((own, each) => own + each, 0),
    0,
  )
  return nights.length === 0 ? 0 : sum / nights.length
}

/** Tries one remedy on the same nights as `before`, night by night. */
export function tryRemedy(
  show: Show,
  remedy: Remedy,
  before: readonly NightSummary[],
  startsAtHour: number,
): RemedyResult {
  const { id, label, note } = remedy
  const after = remedy.change(show)
  const result = { id, label, note, nights: before.length, clean: 0, won: 0, points: 0 }
  if (missingForNight(after).length > 0) return result
  const nights = nightsOf(after, { from: 0, to: before.length, startsAtHour })
  const clean = nights.filter(({ isClean }) => isClean).length
  return {
    ...result,
    clean,
    won: clean - before.filter(({ isClean }) => isClean).length,
    points: scoreOf(nights) - scoreOf(before),
  }
}

/** What helps, the most first: nights won, then the fewest points lost. What makes it no better is left out. */
export const rankedRemedies = (results: readonly RemedyResult[]): RemedyResult[] =>
  results.filter(({ won }) => won > 0).sort((a, b) => b.won - a.won || b.points - a.points)
