import type { Choice, Problem } from '../problem/problem'
import type { Group } from './groups'
import { addAccepted, addTo } from './sums'

/** What a group gets and uses in one shape, at the bitrates from `first` up to `end`; written over for every shape. */
export interface GroupSums {
  /** Those that the group is fed by; set once for all of its shapes. */
  relays: readonly number[]
  choices: Choice[]
  first: number
  end: number
  /** -1 where a bitrate is not accepted. */
  scores: Int32Array
  wires: Int32Array
  /** By frame rate: what the group takes at each bitrate, whatever the shape is otherwise; -1 where a path does not carry it. */
  wiresAt: Map<number, Int32Array>
  disks: Int32Array
  recordings: number
  /** For each member that may be below the floor the bitrate from which on it is not, ascending, and how many it stands for. */
  aboveFrom: { from: number; count: number }[]
}

export const newGroupSums = (length: number): GroupSums => ({
  relays: [],
  choices: [],
  first: 0,
  end: 0,
  scores: new Int32Array(length),
  wires: new Int32Array(0),
  wiresAt: new Map(),
  disks: new Int32Array(length),
  recordings: 0,
  aboveFrom: [],
})

/** To be called before a group's first shape. */
export function beginGroup(sums: GroupSums, { routes }: Group): void {
  sums.relays = [...new Set(routes.filter((route) => route >= 0))]
  sums.wiresAt.clear()
}

/** The sums of a group in one shape; with `isWhole` only from the bitrate on from which nobody is below the floor. */
export function sumUp(
  sums: GroupSums,
  problem: Problem,
  { members, routes }: Group,
  { shape, isWhole }: { shape: number; isWhole: boolean },
): void {
  const { demands, relays, shapes, uploadKbps } = problem
  const { scores, disks } = sums
  const choices = members.map((member) => member.choices[shape]!)
  const relayed = sums.relays.map((relay) => relays[relay]!.wires.get(shape)!)
  let first = 0
  let end = scores.length
  for (const choice of choices) {
    first = Math.max(first, choice.first)
    end = Math.min(end, choice.first + choice.scores.length)
  }
  for (const relay of relayed) {
    first = Math.max(first, relay.first)
    end = Math.min(end, relay.end)
  }
  if (isWhole) for (const { aboveFrom } of members) first = Math.max(first, aboveFrom[shape]!)
  const { framesPerSecond } = shapes[shape]!
  let wires = sums.wiresAt.get(framesPerSecond)
  if (!wires) {
    wires = new Int32Array(scores.length)
    const all = { offset: 0, first: 0, end: wires.length }
    for (let member = 0; member < choices.length; member += 1)
      if (routes[member]! < 0) addAccepted(wires, choices[member]!.wireKbps, all)
    for (const { wireKbps } of relayed) addAccepted(wires, wireKbps, all)
    sums.wiresAt.set(framesPerSecond, wires)
  }
  end = carriedUpTo(wires, { first, end }, uploadKbps)
  sums.choices = choices
  sums.first = first
  sums.end = end
  sums.wires = wires
  sums.recordings = 0
  sums.aboveFrom = isWhole
    ? []
    : members
        .map(({ aboveFrom, demand }) => ({
          from: aboveFrom[shape]!,
          count: demands[demand]!.count,
        }))
        .sort((a, b) => a.from - b.from)
  if (first >= end) return
  scores.fill(0, first, end)
  disks.fill(0, first, end)
  for (let member = 0; member < choices.length; member += 1) {
    const choice = choices[member]!
    addAccepted(scores, choice.scores, { offset: choice.first, first, end })
    if (!choice.diskMegabytes) continue
    sums.recordings += demands[members[member]!.demand]!.count
    addTo(disks, choice.diskMegabytes, first, end)
  }
}

/** The place up to which bitrates fit the line and the paths: the higher one is, the more it takes. */
function carriedUpTo(
  wires: Int32Array,
  { first, end }: { first: number; end: number },
  uploadKbps: number,
): number {
  let low = first
  let high = Math.max(first, end)
  while (low < high) {
    const middle = (low + high) >> 1
    if (wires[middle]! < 0 || wires[middle]! > uploadKbps) high = middle
    else low = middle + 1
  }
  return low
}
