import { type Encode, type EncodeUse, type EncodeUses, noUse, plus } from './planState'

/** Loads are sums of fractions; less than this is no difference. */
export const tolerance = 1e-9

/** At least so many score units, and no more below the floor. */
export interface Limits {
  minScoreUnits: number
  maxBelow: number
}

/** A plan while it is changed, one encode at a time. */
export interface State {
  encodes: Encode[]
  uses: EncodeUse[]
  total: EncodeUse
  /** By device. */
  loads: number[]
  sessions: number[]
}

/** One or two encodes replaced by one. */
export interface Move {
  replaced: readonly number[]
  by: Encode
  use: EncodeUse
}

/** null where somebody does not accept what they get, or a relay is sent to twice or feeds too many. */
export function stateOf(uses: EncodeUses, encodes: readonly Encode[]): State | null {
  const each: EncodeUse[] = []
  for (const encode of encodes) {
    const use = uses.of(encode)
    if (!use) return null
    each.push(use)
  }
  const { devices, relays, demands } = uses.problem
  const fed = relays.map(() => ({ encodes: 0, count: 0 }))
  for (const { serves } of encodes) {
    for (const relay of new Set(serves.flatMap((served) => served.relay ?? [])))
      fed[relay]!.encodes += 1
    for (const { demand, relay } of serves)
      if (relay !== null) fed[relay]!.count += demands[demand]!.count
  }
  if (fed.some((each, relay) => each.encodes > 1 || each.count > relays[relay]!.mostFed))
    return null
  const state: State = {
    encodes: [...encodes],
    uses: each,
    total: each.reduce((sum, use) => plus(sum, use), noUse),
    loads: devices.map(() => 0),
    sessions: devices.map(() => 0),
  }
  encodes.forEach(({ device }, index) => {
    state.loads[device]! += loadOf(each[index]!)
    state.sessions[device]! += 1
  })
  return state
}

const loadOf = ({ processorLoad, otherLoad }: EncodeUse): number => processorLoad + otherLoad

const over = (used: number, limit: number): number =>
  used > limit + tolerance ? (used - limit) / Math.max(limit, 1) : 0

/**
 * By how much a plan breaks its limits and terms after a move, or as it is, each as a share of it; 0
 * where it keeps to all. Asked of every move there is, so that nothing is made for it.
 */
export function excessOf(
  { problem }: EncodeUses,
  state: State,
  { minScoreUnits, maxBelow }: Limits,
  move: Move | null,
): number {
  let { uploadKbps, diskMegabytes, below, scoreUnits } = state.total
  if (move) {
    uploadKbps += move.use.uploadKbps
    diskMegabytes += move.use.diskMegabytes
    below += move.use.below
    scoreUnits += move.use.scoreUnits
    for (const index of move.replaced) {
      const replaced = state.uses[index]!
      uploadKbps -= replaced.uploadKbps
      diskMegabytes -= replaced.diskMegabytes
      below -= replaced.below
      scoreUnits -= replaced.scoreUnits
    }
  }
  let excess =
    over(uploadKbps, problem.uploadKbps) +
    over(diskMegabytes, problem.diskMegabytes) +
    over(below, maxBelow)
  for (let device = 0; device < problem.devices.length; device += 1) {
    const { maxLoad, sessions: maxSessions } = problem.devices[device]!
    let load = state.loads[device]!
    let sessions = state.sessions[device]!
    if (move?.by.device === device) {
      load += loadOf(move.use)
      sessions += 1
    }
    for (const index of move?.replaced ?? nothingReplaced)
      if (state.encodes[index]!.device === device) {
        load -= loadOf(state.uses[index]!)
        sessions -= 1
      }
    excess += over(load, maxLoad)
    if (maxSessions !== null) excess += over(sessions, maxSessions)
  }
  return excess + Math.max(0, minScoreUnits - scoreUnits) / Math.max(1, minScoreUnits)
}

const nothingReplaced: readonly number[] = []

/** How much less of something a plan has after a move. */
export function lessBy(state: State, { replaced, use }: Move, amount: keyof EncodeUse): number {
  let less = -use[amount]
  for (const index of replaced) less += state.uses[index]![amount]
  return less
}

export function carryOut(state: State, { replaced, by, use }: Move): void {
  const loads = [...state.loads]
  const sessions = [...state.sessions]
  let total = plus(state.total, use)
  loads[by.device]! += loadOf(use)
  sessions[by.device]! += 1
  for (const index of replaced) {
    const { device } = state.encodes[index]!
    total = plus(total, state.uses[index]!, -1)
    loads[device]! -= loadOf(state.uses[index]!)
    sessions[device]! -= 1
  }
  const kept = (_: unknown, index: number): boolean => !replaced.includes(index)
  const encodes = [...state.encodes.filter(kept), by]
  Object.assign(state, { total, loads, sessions, encodes })
  state.uses = [...state.uses.filter(kept), use]
}
