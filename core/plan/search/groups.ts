import type { Choice, Problem } from '../problem/problem'
import { setOf } from './bitSets'
import type { Rank } from './priorityOrder'
import { canBeHeld } from './subproblems'

/** One demand of a component. */
export interface Member {
  /** Its place in the component, by which it stands in a mask. */
  bit: number
  demand: number
  sharing: { picture: string; sound: string | null }
  /** Among those that are alike but for their priority. */
  rank: Rank
  /** By shape; undefined where it does not accept the shape. */
  choices: readonly (Choice | undefined)[]
  /** By shape, the place of the bitrate from which on it is above the floor. */
  aboveFrom: Int32Array
  /** By shape, the place of the bitrate from which on it has always earned its place. */
  earnedFrom: Int32Array
}

/** Members that one encode could serve, and how. */
export interface Group {
  members: readonly Member[]
  /** For each member the relay it is reached through, or -1. */
  routes: readonly number[]
  /** The shapes that all of them accept, and the relays too. */
  shapes: readonly number[]
}

/** Where there would be more groups than this within one component only some of the larger are looked at. */
const maxGroups = 10_000

/** So many sets of members are tried at most for them, since few may be worth serving. */
const maxTries = 400_000

/** Of other plans than the best that is known so many at most, since each makes dozens of columns. */
const maxOthers = 200

/** So many groups are tried between two chances to stop. */
const triesBetweenYields = 2000

export const maskOf = (members: readonly Member[]): number => setOf(members.map(({ bit }) => bit))

/** The members of a component: those that could share stand together, recordings last, so that a search has few states. */
export function membersOf(
  problem: Problem,
  demands: readonly number[],
  ranks: readonly Rank[],
): Member[] {
  const sharingOf = (demand: number): string => {
    const { picture, sound } = problem.demands[demand]!
    return sound === null ? `1 ${picture}` : `0 ${picture} ${sound}`
  }
  const firstShape = (demand: number): number =>
    Math.min(...problem.demands[demand]!.choices.map(({ shape }) => shape))
  const placeOf = (demand: number): number => ranks[demand]!.place
  /** How many of each class there have been, since a component that was cut may have only some of one. */
  const placed = new Map<number, number>()
  return [...demands]
    .sort(
      (a, b) =>
        sharingOf(a).localeCompare(sharingOf(b)) ||
        firstShape(a) - firstShape(b) ||
        ranks[a]!.alike - ranks[b]!.alike ||
        placeOf(a) - placeOf(b),
    )
    .map((demand, bit) => {
      const { picture, sound, choices, floorUnits } = problem.demands[demand]!
      const byShape: (Choice | undefined)[] = problem.shapes.map(() => undefined)
      const aboveFrom = new Int32Array(problem.shapes.length)
      const earnedFrom = new Int32Array(problem.shapes.length)
      for (const choice of choices) {
        byShape[choice.shape] = choice
        aboveFrom[choice.shape] = choice.first + lengthBelow(choice.scores, floorUnits)
        earnedFrom[choice.shape] = choice.first + lengthToEarned(choice.earned)
      }
      const { alike } = ranks[demand]!
      const place = placed.get(alike) ?? 0
      placed.set(alike, place + 1)
      return {
        bit,
        demand,
        sharing: { picture, sound },
        rank: { alike, place },
        choices: byShape,
        aboveFrom,
        earnedFrom,
      }
    })
}

/** How many bitrates lie before those at all of which the place is earned. */
function lengthToEarned(earned: Uint8Array | null): number {
  let length = earned?.length ?? 0
  while (length > 0 && earned?.[length - 1] !== 0) length -= 1
  return length
}

/** How many bitrates lie before the first that reaches the floor. */
function lengthBelow(scores: Int32Array, floorUnits: number): number {
  let at = 0
  while (at < scores.length && scores[at]! < floorUnits) at += 1
  return at
}

/** Whom one encode of a plan serves, each directly or through a relay. */
export type Served = readonly { demand: number; relay: number | null }[]

/** Plans that there are already, so that a search never knows less than they. */
export interface KnownPlans {
  /** Whom each encode of the best of them serves. */
  served: readonly Served[]
  /** Whom encodes of the others serve, those of the better plans first. */
  others: readonly Served[]
}

export const noKnownPlans: KnownPlans = { served: [], others: [] }

/** What a component is made up of: who could be served by one encode, and who may be left out together. */
export interface Sets {
  groups: readonly Group[]
  leftOut: readonly (readonly Member[])[]
  /** Whether every group that could be is among them. */
  isComplete: boolean
}

/**
 * Each group of a component that one encode could serve, in every way in which it is worth serving, and
 * those of the best plan that is known. Where there are too many, every member by itself, and of the
 * larger groups those of neighbours, those that a relay feeds together, and as many of other plans as a
 * search can hold. Yields now and then, so that it can be stopped.
 */
export function* setsOf(
  problem: Problem,
  members: readonly Member[],
  known: KnownPlans = noKnownPlans,
): Generator<void, Sets> {
  const leftOut = leftOutOf(problem, members)
  function* canHold(groups: readonly Group[]): Generator<void, boolean> {
    const sets = [...groups.map((group) => group.members), ...leftOut]
    return yield* canBeHeld(sets.map(maskOf), members.length)
  }
  const groupsOf = (those: readonly Served[]): Group[] =>
    those.flatMap((served) => groupOfServed(problem, members, served) ?? [])

  const own = groupsOf(known.served)
  const all = yield* everyGroup(problem, members)
  if (all) {
    const withOwn = withMore(all, own)
    if (yield* canHold(withOwn)) return { groups: withOwn, leftOut, isComplete: true }
    if (withOwn.length > all.length && (yield* canHold(all)))
      return { groups: all, leftOut, isComplete: true }
  }
  const some = withMore([], someGroups(problem, members))
  const others = groupsOf(known.others).slice(0, maxOthers)
  for (let count = others.length; ; count >>= 1) {
    const held = withMore(some, [...own, ...others.slice(0, count)])
    if (count === 0 || (yield* canHold(held))) return { groups: held, leftOut, isComplete: false }
  }
}

/** Some groups, and those of a few more that are not among them. */
function withMore(groups: readonly Group[], more: readonly Group[]): Group[] {
  const missing = new Map<string, Group>()
  const masks = new Set<number>()
  for (const group of more) {
    missing.set(keyOf(group), group)
    masks.add(maskOf(group.members))
  }
  for (const group of groups) if (masks.has(maskOf(group.members))) missing.delete(keyOf(group))
  return [...groups, ...missing.values()]
}

const keyOf = ({ members, routes }: Group): string =>
  members.map(({ bit }, index) => `${bit}:${routes[index]}`).join()

/** null where there are too many. */
function* everyGroup(
  problem: Problem,
  members: readonly Member[],
): Generator<void, Group[] | null> {
  const groups: Group[] = []
  let tried = 0
  const takesMore = takesMoreOf()
  for (const key of sharingKeys(problem, members)) {
    const able = members
      .map((member) => ({ member, routes: routesInto(problem, member, key) }))
      .filter(({ routes }) => routes.length > 0)
    function* extend(at: number, group: Group): Generator<void, void> {
      if (groups.length > maxGroups || tried > maxTries) return
      tried += 1
      if (tried % triesBetweenYields === 0) yield
      const next = able[at]
      if (!next) {
        const isWanted =
          group.members.length > 0 &&
          isOwnKey(problem, group, key) &&
          feedsTheRight(problem, group, takesMore)
        if (isWanted) groups.push(group)
        return
      }
      yield* extend(at + 1, group)
      if (!followsByPriority(group, next.member)) return
      for (const route of next.routes) {
        const larger = extended(problem, group, next.member, route)
        if (larger) yield* extend(at + 1, larger)
      }
    }
    yield* extend(0, noGroup)
    if (groups.length > maxGroups || tried > maxTries) return null
  }
  return groups
}

/** Every member by itself, runs of members that stand next to each other, and runs that a relay feeds. */
function someGroups(problem: Problem, members: readonly Member[]): Group[] {
  const groups: Group[] = []
  for (const key of sharingKeys(problem, members)) {
    const joins = members.map((member) => routesInto(problem, member, key))
    const routes = new Set(joins.flat())
    for (const route of routes) {
      const able = members.filter((_, at) => joins[at]!.includes(route))
      able.forEach((_, from) => {
        let group = noGroup
        for (const member of able.slice(from)) {
          const larger = extended(problem, group, member, route)
          if (!larger) break
          group = larger
          if (isOwnKey(problem, group, key)) groups.push(group)
        }
      })
    }
  }
  return groups
}

/** null where they are not all of this component. */
function groupOfServed(problem: Problem, members: readonly Member[], served: Served): Group | null {
  const relayTo = new Map(served.map(({ demand, relay }) => [demand, relay ?? -1]))
  const own = members.filter(({ demand }) => relayTo.has(demand))
  if (own.length < served.length) return null
  return own.reduce<Group | null>(
    (group, member) => group && extended(problem, group, member, relayTo.get(member.demand)!),
    noGroup,
  )
}

const noGroup: Group = { members: [], routes: [], shapes: [] }

/** Whether, of those that are alike but for their priority, a group has none yet or those right before this one. */
function followsByPriority({ members }: Group, { rank: { alike, place } }: Member): boolean {
  const last = members.findLast(({ rank }) => rank.alike === alike)
  return last === undefined || last.rank.place === place - 1
}

/** A group with one more member, reached by a route; null where the two can't be served by one encode. */
function extended(problem: Problem, group: Group, member: Member, route: number): Group | null {
  const { demands, relays } = problem
  const [first] = group.members
  const own = demands[member.demand]!
  if (first && !(own.shares && demands[first.demand]!.shares)) return null
  const relay = route < 0 ? null : relays[route]!
  if (relay && fedBy(problem, group, route) + own.count > relay.mostFed) return null
  const shapes = first
    ? group.shapes.filter((shape) => member.choices[shape])
    : own.choices.map(({ shape }) => shape)
  const fitting = relay ? shapes.filter((shape) => relay.wires.has(shape)) : shapes
  if (fitting.length === 0) return null
  return {
    members: [...group.members, member],
    routes: [...group.routes, route],
    shapes: fitting,
  }
}

/** How many demands a relay feeds in a group. */
const fedBy = ({ demands }: Problem, { members, routes }: Group, relay: number): number =>
  members.reduce(
    (sum, { demand }, index) => (routes[index] === relay ? sum + demands[demand]!.count : sum),
    0,
  )

/**
 * Whoever may be left out together: the steps of one owner, and of owners that are alike but for their
 * priority as many of the last as there may be, since those are left out first.
 */
function leftOutOf(problem: Problem, members: readonly Member[]): (readonly Member[])[] {
  const byOwner = new Map<string, Member[]>()
  for (const member of members) {
    const { owner, mustKeep } = problem.demands[member.demand]!
    if (!mustKeep) byOwner.set(owner, [...(byOwner.get(owner) ?? []), member])
  }
  const alike = new Map<number, Member[][]>()
  for (const steps of byOwner.values()) {
    const { rank } = steps[0]!
    alike.set(rank.alike, [...(alike.get(rank.alike) ?? []), steps])
  }
  return [...alike.values()].flatMap((owners) => {
    owners.sort((a, b) => a[0]!.rank.place - b[0]!.rank.place)
    return owners.map((_, from) => owners.slice(from).flat())
  })
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
    const count = members.reduce(
      (sum, { demand }, index) => (routes[index] === relay ? sum + demands[demand]!.count : sum),
      0,
    )
    const { count: own } = demands[members[fed]!.demand]!
    const couldGoDirectly = canJoinDirectly(demands, members, fed)
    return members.every((member, index) => {
      const { relays: able, count: more } = demands[member.demand]!
      if (routes[index]! >= 0 || !able.includes(relay)) return true
      if (count + more <= mostFed) return false
      // In the other's place it would be fed by itself, and the other take no more than it does now.
      const couldChange = couldGoDirectly && count - own + more <= mostFed
      return !(couldChange && takesMore(member, members[fed]!, shapes))
    })
  })
}

/** Whether a fed member could be sent to directly from the same encode: by its route, picture and sound. */
function canJoinDirectly(
  demands: Problem['demands'],
  members: readonly Member[],
  fed: number,
): boolean {
  const { demand, sharing } = members[fed]!
  return (
    demands[demand]!.direct &&
    members.every(
      ({ sharing: { picture, sound } }) =>
        picture === sharing.picture && (sound === null || sound === sharing.sound),
    )
  )
}

/** Whether one member's direct send takes at least as much as another's in every one of the shapes; of two alike the first. */
function takesMoreOf(): (a: Member, b: Member, shapes: readonly number[]) => boolean {
  const known = new Map<Int32Array, Map<Int32Array, boolean>>()
  const isAsMuch = (a: Int32Array, b: Int32Array): boolean => {
    const ofA = known.get(a) ?? new Map<Int32Array, boolean>()
    known.set(a, ofA)
    // What the first's path does not carry is not sent to it; the second's then need not either.
    const answer =
      ofA.get(b) ??
      a.every((wireKbps, bitrate) => wireKbps < 0 || (b[bitrate]! >= 0 && wireKbps >= b[bitrate]!))
    ofA.set(b, answer)
    return answer
  }
  const all = (a: Member, b: Member, shapes: readonly number[]): boolean =>
    shapes.every((shape) => isAsMuch(a.choices[shape]!.wireKbps, b.choices[shape]!.wireKbps))
  return (a, b, shapes) => all(a, b, shapes) && (a.bit < b.bit || !all(b, a, shapes))
}
