import { firstAtLeast } from '../problem/choices'
import { isSubset, setOf } from './bitSets'
import { minPoint } from './curves'
import type { Columns, ColumnsAndCurves } from './columns'
import type { Found } from './structures'
import {
  type Encode,
  type EncodeUse,
  type EncodeUses,
  noUse,
  plus,
  solutionOfEncodes,
} from './planState'

/** What is used of everything while a plan is built up. */
interface Tally {
  total: EncodeUse
  loads: number[]
  sessions: number[]
}

const tallyOf = (
  { problem }: EncodeUses,
  encodes: readonly (readonly [Encode, EncodeUse])[],
): Tally => {
  const tally: Tally = {
    total: noUse,
    loads: problem.devices.map(() => 0),
    sessions: problem.devices.map(() => 0),
  }
  for (const [{ device }, use] of encodes) {
    tally.total = plus(tally.total, use)
    tally.loads[device]! += use.processorLoad + use.otherLoad
    tally.sessions[device]! += 1
  }
  return tally
}

/** How much of what there is a plan uses with one encode more, all resources taken as equally dear; infinite where it does not fit. */
function shareWith(
  { problem: { uploadKbps, diskMegabytes, devices } }: EncodeUses,
  { total, loads, sessions }: Tally,
  { device, use }: { device: number; use: EncodeUse },
): number {
  const ownKbps = total.uploadKbps + use.uploadKbps
  const ownMegabytes = total.diskMegabytes + use.diskMegabytes
  if (ownKbps > uploadKbps || ownMegabytes > diskMegabytes) return Infinity
  let ofDevices = 0
  for (let index = 0; index < devices.length; index += 1) {
    const { maxLoad, sessions: maxSessions } = devices[index]!
    const isOwn = index === device
    const load = loads[index]! + (isOwn ? use.processorLoad + use.otherLoad : 0)
    const count = sessions[index]! + Number(isOwn)
    if (load > maxLoad + 1e-9 || count > (maxSessions ?? Infinity)) return Infinity
    ofDevices += load / Math.max(maxLoad, 1e-9) + (maxSessions ? count / maxSessions : 0)
  }
  return ownKbps / Math.max(1, uploadKbps) + ownMegabytes / Math.max(1, diskMegabytes) + ofDevices
}

/**
 * A plan that is found at once. Where it leaves somebody out for whom there would be room if others stayed
 * below the floor, it is the one that has them stay there. null where one that must be kept does not fit.
 * Yields between owners, so that it can be stopped.
 */
export function* greedyPlan(uses: EncodeUses): Generator<void, Encode[] | null> {
  const plan = yield* takenIn(uses, [true, false])
  const leftOut = plan && solutionOfEncodes(uses, plan).worth.leftOutWeight
  if (leftOut === 0) return plan
  const sparing = yield* takenIn(uses, [false])
  if (!plan || !sparing) return plan ?? sparing
  return solutionOfEncodes(uses, sparing).worth.leftOutWeight < leftOut! ? sparing : plan
}

/**
 * Owners are taken in by how much they matter, each demand in the way that uses least of all there is, at
 * the lowest bitrate, above the floor first where that is said, shared where that is less; who does not
 * fit is left out.
 */
function* takenIn(uses: EncodeUses, tries: readonly boolean[]): Generator<void, Encode[] | null> {
  const { demands } = uses.problem
  const owners = new Map<string, number[]>()
  demands.forEach(({ owner }, demand) => owners.set(owner, [...(owners.get(owner) ?? []), demand]))
  const inOrder = [...owners.values()].sort(([a], [b]) => {
    const [first, second] = [demands[a!]!, demands[b!]!]
    return (
      Number(second.mustKeep) - Number(first.mustKeep) ||
      second.priority / second.count - first.priority / first.count
    )
  })
  let plan: (readonly [Encode, EncodeUse])[] = []
  for (const steps of inOrder) {
    let next: typeof plan | null = plan
    for (const demand of steps) {
      const before: typeof plan | null = next
      next = null
      for (const isAboveFloor of tries)
        next ??= before && withDemand(uses, before, demand, isAboveFloor)
      yield
    }
    if (next) plan = next
    else if (demands[steps[0]!]!.mustKeep) return null
  }
  return plan.map(([encode]) => encode)
}

/** The plan with one demand more, in the way that uses least; null where there is no room for it. */
function withDemand(
  uses: EncodeUses,
  plan: readonly (readonly [Encode, EncodeUse])[],
  demand: number,
  isAboveFloor: boolean,
): (readonly [Encode, EncodeUse])[] | null {
  const { demands, relays } = uses.problem
  const own = demands[demand]!
  const all = tallyOf(uses, plan)
  let best: { encode: Encode; use: EncodeUse; instead: number | null } | null = null
  let least = Infinity
  const offer = (encode: Encode, use: EncodeUse | null, instead: number | null): void => {
    if (!use || (isAboveFloor && use.below > 0)) return
    const others = instead === null ? all : tallyOf(uses, without(plan, instead))
    const share = shareWith(uses, others, { device: encode.device, use })
    if (share >= least) return
    least = share
    best = { encode, use, instead }
  }
  const fedBy = (relay: number): { at: number; count: number } => {
    const at = plan.findIndex(([{ serves }]) => serves.some((each) => each.relay === relay))
    const count = (plan[at]?.[0].serves ?? []).reduce(
      (sum, each) => (each.relay === relay ? sum + demands[each.demand]!.count : sum),
      0,
    )
    return { at, count }
  }
  const routes = [...(own.direct ? [null] : []), ...own.relays]
  for (const relay of routes) {
    const fed = relay === null ? null : fedBy(relay)
    if (fed && fed.count + own.count > relays[relay!]!.mostFed) continue
    const via = relay === null ? own : relays[relay]!
    // With somebody else: through a relay that is sent to already only there.
    plan.forEach(([encode], index) => {
      if (fed && fed.at >= 0 && fed.at !== index) return
      if (!canJoin(uses, encode, demand, via)) return
      const joined = { ...encode, serves: [...encode.serves, { demand, relay }] }
      offer(joined, uses.of(joined), index)
    })
    if (fed && fed.at >= 0) continue
    const serves = [{ demand, relay }]
    for (const shape of uses.shapesFor(serves)) {
      const row = uses.rowFor(serves, shape)
      const bitrate = row ? uses.lowestBitrate(row, isAboveFloor) : -1
      if (!row || bitrate < 0) continue
      for (const place of row.places) {
        const { device } = place
        offer({ serves, shape, device, bitrate }, uses.useAt(row, place, bitrate), null)
      }
    }
  }
  if (!best) return null
  const { encode, use, instead } = best as {
    encode: Encode
    use: EncodeUse
    instead: number | null
  }
  return [...(instead === null ? plan : without(plan, instead)), [encode, use]]
}

const without = <T>(list: readonly T[], left: number): T[] =>
  list.filter((_, index) => index !== left)

/** Whether a demand may share an encode, by what of it is not chosen. */
function canJoin(
  { problem: { demands, relays } }: EncodeUses,
  { serves }: Encode,
  demand: number,
  via: { picture: string; sound: string | null },
): boolean {
  if (!demands[demand]!.shares) return false
  return serves.every(({ demand: other, relay }) => {
    const theirs = relay === null ? demands[other]! : relays[relay]!
    return (
      demands[other]!.shares &&
      theirs.picture === via.picture &&
      (theirs.sound === null || via.sound === null || theirs.sound === via.sound)
    )
  })
}

/** The plan with its bitrates raised, always where that brings most for what it takes, as far as the upload and the disk allow. */
export function raised(uses: EncodeUses, encodes: readonly Encode[]): Encode[] {
  const { bitratesKbps, uploadKbps, diskMegabytes } = uses.problem
  const plan = encodes.map((encode) => ({ ...encode }))
  const tables = plan.map(({ serves, shape }) => uses.tableFor(serves, shape)!)
  let [upload, disk] = [0, 0]
  plan.forEach(({ bitrate }, index) => {
    upload += tables[index]!.uploadKbps[bitrate]!
    disk += tables[index]!.diskMegabytes[bitrate]!
  })
  for (;;) {
    let best: { index: number; bitrate: number; ratio: number } | null = null
    plan.forEach(({ bitrate: from }, index) => {
      const { scoreUnits, uploadKbps: wire, diskMegabytes: file } = tables[index]!
      for (let to = from + 1; to < bitratesKbps.length; to += 1) {
        const gain = scoreUnits[to]! - scoreUnits[from]!
        if (scoreUnits[to]! < 0 || gain <= 0) continue
        const more = wire[to]! - wire[from]!
        if (upload + more > uploadKbps || disk + file[to]! - file[from]! > diskMegabytes) break
        const ratio = gain / (more + 1)
        if (!best || ratio > best.ratio) best = { index, bitrate: to, ratio }
        break
      }
    })
    const step = best as { index: number; bitrate: number } | null
    if (!step) return plan
    const { uploadKbps: wire, diskMegabytes: file } = tables[step.index]!
    const from = plan[step.index]!.bitrate
    upload += wire[step.bitrate]! - wire[from]!
    disk += file[step.bitrate]! - file[from]!
    plan[step.index]!.bitrate = step.bitrate
  }
}

/** A plan as a selection of columns, each encode at the lowest bitrate of its column; null where one of them is no column. */
export function selectionOf(
  { components, curves }: ColumnsAndCurves,
  encodes: readonly Encode[],
): Found | null {
  const placeOf = new Map<number, { subproblem: number; bit: number }>()
  components.forEach(({ members }, subproblem) =>
    members.forEach((demand, bit) => placeOf.set(demand, { subproblem, bit })),
  )
  const served = new Set<number>()
  const chosen: Found['chosen'] = []
  let value = 0
  const take = (subproblem: number, column: number): void => {
    const point = minPoint(curves, components[subproblem]!.curve[column]!)
    chosen.push({ subproblem, column, point })
    value += curves.value[point]!
  }
  const firstBitrate = (columns: Columns, column: number): number =>
    curves.bitrate[minPoint(curves, columns.curve[column]!)]!
  for (const { serves, shape, device, bitrate } of encodes) {
    const places = serves.map((each) => ({ ...placeOf.get(each.demand)!, relay: each.relay ?? -1 }))
    places.sort((a, b) => a.bit - b.bit)
    const { subproblem } = places[0]!
    const columns = components[subproblem]!
    const mask = setOf(places.map(({ bit }) => bit))
    let own = -1
    // They are sorted by mask.
    for (let column = firstAtLeast(columns.mask, mask); column < columns.count; column += 1) {
      if (columns.mask[column] !== mask) break
      if (columns.shape[column] !== shape) continue
      if (columns.device[column] !== device) continue
      const routes = columns.routes[columns.group[column]!]!
      if (routes.some((route, index) => route !== places[index]!.relay)) continue
      // Where more bits are above the floor, or fill the disk, is another column.
      if (firstBitrate(columns, column) > bitrate) continue
      if (own < 0 || firstBitrate(columns, column) > firstBitrate(columns, own)) own = column
    }
    if (own < 0) return null
    take(subproblem, own)
    for (const { demand } of serves) served.add(demand)
  }
  for (const [subproblem, columns] of components.entries()) {
    let left = setOf(columns.members.flatMap((demand, bit) => (served.has(demand) ? [] : [bit])))
    // Of those that may be left out together, the more come later.
    for (let column = columns.count - 1; column >= 0 && left !== 0; column -= 1) {
      const mask = columns.mask[column]!
      if (columns.device[column]! >= 0 || !isSubset(mask, left)) continue
      take(subproblem, column)
      left -= mask
    }
    if (left !== 0) return null
  }
  return { value, chosen }
}
