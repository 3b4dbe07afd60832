import { budgetOf, deviceUses, diskUseGigabytes, trafficToFreeKbps } from '../../fit'
import type { Show } from '../../show'
import { withDevice, withLine } from '../../show/edits'
import { gigabytesInWords, listInWords, mbpsNumber, pointsInWords, shareInWords } from '../../words'
import { type FitResult, fittingAside } from '../fitShow'
import { liftsInWords, type PlanChange, planChanges, takenIn } from '../planChanges'
import { planRows } from '../planSummary'
import { withPlan } from '../showPlan'
import { scoreUnitsPerPoint } from '../problem/problem'
import type { PlannedShow } from '../problem/renditionRequests'

/** One resource of a plan: how much of it is used. */
export interface ResourceUse {
  id: string
  name: string
  /** Used ÷ there is; above 1 it is too much. */
  share: number
  words: string
}

/** How full everything is that a plan uses. */
export function resourceUsesOf(show: PlannedShow & Show): ResourceUse[] {
  const { upload, totalKbps } = budgetOf(show)
  const rooms: ResourceUse[] = [
    {
      id: 'upload',
      name: 'Upload',
      share: upload.usableKbps > 0 ? totalKbps / upload.usableKbps : totalKbps > 0 ? 2 : 0,
      words: `${mbpsNumber(totalKbps)} of ${mbpsNumber(upload.usableKbps)} Mb/s`,
    },
  ]
  for (const { device, encodes, load, maxLoad } of deviceUses(show)) {
    rooms.push({
      id: `load ${device.id}`,
      name: device.name,
      share: load / maxLoad,
      words: `${shareInWords(load)} of ${shareInWords(maxLoad)}`,
    })
    if (device.sessions !== null)
      rooms.push({
        id: `sessions ${device.id}`,
        name: `${device.name}, encodes`,
        share: encodes.length / device.sessions,
        words: `${encodes.length} of ${device.sessions}`,
      })
  }
  const free = show.computer.freeDiskGigabytes
  if (free !== null && show.recordings.some(({ on }) => on)) {
    const needed = diskUseGigabytes(show)
    rooms.push({
      id: 'disk',
      name: 'Disk',
      share: free > 0 ? needed / free : 2,
      words: `${gigabytesInWords(needed)} of ${gigabytesInWords(free)}`,
    })
  }
  return rooms
}

/** What one more unit of a resource would buy, found by planning again. */
export interface Marginal {
  id: string
  /** As in "One more Mb/s". */
  unit: string
  points: number
  keptWeight: number
  /** Who would get something else. */
  changes: PlanChange[]
}

/** As in "One more Mb/s of upload would lift Commonhall from 78 to 86." */
export function marginalInWords({ unit, points, changes }: Marginal): string {
  const names = takenIn(changes)
  if (names.length > 0) return `${unit} would make room for ${listInWords(names)}.`
  const lifts = liftsInWords(changes).slice(0, maxLiftsNamed)
  if (lifts.length > 0) return `${unit} would lift ${listInWords(lifts)}.`
  return `${unit} would bring ${pointsInWords(points)}.`
}

const maxLiftsNamed = 2
/** What brings less is not told. */
const minShownPoints = 0.05

interface Step {
  id: string
  unit: string
  change: (show: PlannedShow) => PlannedShow
}

function stepsOf(show: PlannedShow): Step[] {
  const devices = show.computer.devices.flatMap((device): Step[] => [
    {
      id: `load ${device.id}`,
      unit: `Ten more percent of ${device.name}`,
      change: (before) =>
        withDevice(before, device.id, (item) => ({
          ...item,
          plannedSharePercent: item.plannedSharePercent + 10,
        })),
    },
    ...(device.sessions === null
      ? []
      : [
          {
            id: `sessions ${device.id}`,
            unit: `One more encode on ${device.name}`,
            change: (before: PlannedShow) =>
              withDevice(before, device.id, (item) => ({
                ...item,
                sessions: (item.sessions ?? 0) + 1,
              })),
          },
        ]),
  ])
  const disk: Step[] =
    show.computer.freeDiskGigabytes === null || show.recordings.length === 0
      ? []
      : [
          {
            id: 'disk',
            unit: 'Ten more GB of disk',
            change: (before) => ({
              ...before,
              computer: {
                ...before.computer,
                freeDiskGigabytes: (before.computer.freeDiskGigabytes ?? 0) + 10,
              },
            }),
          },
        ]
  return [
    { id: 'upload', unit: 'One more Mb/s of upload', change: (before) => withUpload(before, 1000) },
    ...devices,
    ...disk,
  ]
}

/** A show whose line gives so many kb/s more to be spent. */
export function withUpload(show: PlannedShow, kbps: number): PlannedShow {
  const bitrateKbps = -trafficToFreeKbps(show, kbps)
  const traffic = { id: 'more-upload', name: 'more', bitrateKbps, on: true }
  return withLine(show, (line) => ({ ...line, otherTraffic: [...line.otherTraffic, traffic] }))
}

/**
 * What holds a plan back: each resource of which more would buy something, the most first. Yields what
 * is known after each, and null in between, so that it can be stopped.
 */
export function* marginalsOf(
  show: PlannedShow,
  present: FitResult,
): Generator<Marginal[] | null, Marginal[]> {
  const found: Marginal[] = []
  // By the time more is given the planner has put its plan into the show, unless cells are set by hand.
  const tried = show.fit.automatic && present.parts ? withPlan(show, present.parts) : show
  for (const { id, unit, change } of stepsOf(show)) {
    const changed = change(tried)
    const { worth, parts } = yield* fittingAside(changed)
    if (worth && parts && present.worth && present.parts) {
      const points = (worth.scoreUnits - present.worth.scoreUnits) / scoreUnitsPerPoint
      const keptWeight = present.worth.leftOutWeight - worth.leftOutWeight
      if (keptWeight > 0 || (keptWeight === 0 && points >= minShownPoints))
        found.push({
          ...{ id, unit, points, keptWeight },
          changes: planChanges(planRows(show, present.parts), planRows(changed, parts)),
        })
    }
    found.sort((a, b) => b.keptWeight - a.keptWeight || b.points - a.points)
    yield [...found]
  }
  return found
}
