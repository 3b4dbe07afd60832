import { type Encode, type EncodeUse, type EncodeUses, noUse, plus } from './planState'

/** An encode of a plan that is built up, with what it uses. */
export type UsedEncode = readonly [Encode, EncodeUse]
export type PartialPlan = readonly UsedEncode[]

/** What is used of everything so far. */
interface Tally {
  total: EncodeUse
  loads: number[]
  sessions: number[]
}

const tallyOf = ({ problem }: EncodeUses, encodes: PartialPlan): Tally => {
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

/** The demands of each owner, which are kept or left out together. */
export function stepsByOwner({ demands }: EncodeUses['problem']): number[][] {
  const owners = new Map<string, number[]>()
  demands.forEach(({ owner }, demand) => owners.set(owner, [...(owners.get(owner) ?? []), demand]))
  return [...owners.values()]
}

/**
 * The plan with one owner more, each of its demands above the floor or anyhow as `tries` has it, in
 * that order; null where there is no room for all of them.
 */
export function withOwner(
  uses: EncodeUses,
  plan: PartialPlan,
  steps: readonly number[],
  tries: readonly boolean[],
): PartialPlan | null {
  let next: PartialPlan | null = plan
  for (const demand of steps) {
    const before: PartialPlan | null = next
    next = null
    for (const isAboveFloor of tries)
      next ??= before && withDemand(uses, before, demand, isAboveFloor)
  }
  return next
}

/** The plan with one demand more, in the way that uses least; null where there is no room for it. */
function withDemand(
  uses: EncodeUses,
  plan: PartialPlan,
  demand: number,
  isAboveFloor: boolean,
): PartialPlan | null {
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
