import type { Choice, Problem } from '../problem/problem'

/** One demand of a component. */
export interface Member {
  /** Its place in the component; bit i of a mask stands for the i-th. */
  bit: number
  demand: number
  sharing: { picture: string; sound: string | null }
  /** By shape; undefined where it does not accept the shape. */
  choices: readonly (Choice | undefined)[]
  /** By shape, the place of the bitrate from which on it is above the floor. */
  aboveFrom: Int32Array
}

/** Members that one encode could serve, and how. */
export interface Group {
  members: readonly Member[]
  /** For each member the relay it is reached through, or -1. */
  routes: readonly number[]
  /** The shapes that all of them accept, and the relays too. */
  shapes: readonly number[]
}

/** Beyond so many groups within one component the larger ones are not looked at. */
const mostGroups = 30_000

export const maskOf = (members: readonly Member[]): number =>
  members.reduce((mask, { bit }) => mask | (1 << bit), 0)

/** The members of a component: those that could share stand together, recordings last, so that a search has few states. */
export function membersOf(problem: Problem, demands: readonly number[]): Member[] {
  const keyOf = (demand: number): string => {
    const { picture, sound } = problem.demands[demand]!
    return sound === null ? `1 ${picture}` : `0 ${picture} ${sound}`
  }
  return [...demands]
    .sort((a, b) => keyOf(a).localeCompare(keyOf(b)) || a - b)
    .map((demand, bit) => {
      const { picture, sound, choices, floorUnits } = problem.demands[demand]!
      const byShape: (Choice | undefined)[] = problem.shapes.map(() => undefined)
      const aboveFrom = new Int32Array(problem.shapes.length)
      for (const choice of choices) {
        byShape[choice.shape] = choice
        aboveFrom[choice.shape] = choice.first + lengthBelow(choice.scores, floorUnits)
      }
      return { bit, demand, sharing: { picture, sound }, choices: byShape, aboveFrom }
    })
}

/** How many bitrates lie before the first that reaches the floor. */
function lengthBelow(scores: Int32Array, floorUnits: number): number {
  let at = 0
  while (at < scores.length && scores[at]! < floorUnits) at += 1
  return at
}

/**
 * Each group of a component that one encode could serve, in every way in which it is worth serving.
 * `isComplete` is false where there were too many to list.
 */
export function groupsOf(
  problem: Problem,
  members: readonly Member[],
): { groups: Group[]; isComplete: boolean } {
  const groups: Group[] = []
  const takesMore = takesMoreOf()
  for (const key of sharingKeys(problem, members)) {
    const joins = members.map((member) => routesInto(problem, member, key))
    const extend = (at: number, group: Group): void => {
      if (groups.length >= mostGroups) return
      if (at === members.length) {
        const isWanted =
          group.members.length > 0 &&
          isOwnKey(problem, group, key) &&
          feedsTheRight(problem, group, takesMore)
        if (isWanted) groups.push(group)
        return
      }
      extend(at + 1, group)
      const member = members[at]!
      const [first] = group.members
      const { demands } = problem
      if (first && !(demands[member.demand]!.shares && demands[first.demand]!.shares)) return
      const shapes = first
        ? group.shapes.filter((shape) => member.choices[shape])
        : problem.demands[member.demand]!.choices.map(({ shape }) => shape)
      for (const route of joins[at]!) {
        const relay = route < 0 ? null : problem.relays[route]!
        if (relay && group.routes.filter((other) => other === route).length >= relay.mostFed)
          continue
        const fitting = relay ? shapes.filter((shape) => relay.wires.has(shape)) : shapes
        if (fitting.length === 0) continue
        extend(at + 1, {
          members: [...group.members, member],
          routes: [...group.routes, route],
          shapes: fitting,
        })
      }
    }
    extend(0, { members: [], routes: [], shapes: [] })
  }
  return { groups, isComplete: groups.length < mostGroups }
}

/** The members that may be left out, those of one owner together. */
export function leftOutOf(problem: Problem, members: readonly Member[]): (readonly Member[])[] {
  const byOwner = new Map<string, Member[]>()
  for (const member of members) {
    const { owner } = problem.demands[member.demand]!
    byOwner.set(owner, [...(byOwner.get(owner) ?? []), member])
  }
  return [...byOwner.values()].filter(([first]) => !problem.demands[first!.demand]!.mustKeep)
}

interface SharingKey {
  picture: string
  /** null for a group of recordings alone. */
  sound: string | null
}

function sharingKeys(problem: Problem, members: readonly Member[]): SharingKey[] {
  const keys = new Map<string, SharingKey>()
  const add = (key: SharingKey): unknown => keys.set(JSON.stringify([key.picture, key.sound]), key)
  for (const { demand, sharing } of members) {
    const { direct, relays } = problem.demands[demand]!
    if (direct) add(sharing)
    for (const relay of relays) {
      const { picture, sound } = problem.relays[relay]!
      add({ picture, sound })
    }
  }
  return [...keys.values()]
}

/** The ways in which a member can join an encode of this key: -1 for directly, else the relay. */
function routesInto(problem: Problem, { demand, sharing }: Member, key: SharingKey): number[] {
  const { direct, relays } = problem.demands[demand]!
  const isAlike =
    sharing.picture === key.picture && (sharing.sound === null || sharing.sound === key.sound)
  return [
    ...(direct && isAlike ? [-1] : []),
    ...relays.filter((relay) => {
      const { picture, sound } = problem.relays[relay]!
      return picture === key.picture && sound === key.sound
    }),
  ]
}

/** Recordings alone make a group of their own key only, so that no group is listed twice. */
function isOwnKey(problem: Problem, group: Group, key: SharingKey): boolean {
  const areRecordings = group.members.every(({ demand }) => problem.demands[demand]!.sound === null)
  return areRecordings === (key.sound === null)
}

/**
 * Whether no other routes of the same members are sure to be better. A relay that is sent to feeds as
 * many as it may, since another direct send would only take upload; and of those that it could feed
 * the ones that would take most.
 */
function feedsTheRight(
  { demands, relays }: Problem,
  { members, routes, shapes }: Group,
  takesMore: (a: Member, b: Member, shapes: readonly number[]) => boolean,
): boolean {
  return routes.every((relay, fed) => {
    if (relay < 0) return true
    const { mostFed } = relays[relay]!
    const isFull = routes.filter((route) => route === relay).length >= mostFed
    return members.every((member, index) => {
      if (routes[index]! >= 0 || !demands[member.demand]!.relays.includes(relay)) return true
      return isFull && !takesMore(member, members[fed]!, shapes)
    })
  })
}

/** Whether one member's direct send takes at least as much as another's in every one of the shapes; of two alike the first. */
function takesMoreOf(): (a: Member, b: Member, shapes: readonly number[]) => boolean {
  const known = new Map<Int32Array, Map<Int32Array, boolean>>()
  const isAsMuch = (a: Int32Array, b: Int32Array): boolean => {
    const ofA = known.get(a) ?? new Map<Int32Array, boolean>()
    known.set(a, ofA)
    const answer = ofA.get(b) ?? a.every((wireKbps, bitrate) => wireKbps >= b[bitrate]!)
    ofA.set(b, answer)
    return answer
  }
  const all = (a: Member, b: Member, shapes: readonly number[]): boolean =>
    shapes.every((shape) => isAsMuch(a.choices[shape]!.wireKbps, b.choices[shape]!.wireKbps))
  return (a, b, shapes) => all(a, b, shapes) && (a.bit < b.bit || !all(b, a, shapes))
}
