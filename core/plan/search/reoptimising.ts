import { uniformInt } from 'pure-rand/distribution/uniformInt'
import { xoroshiro128plus } from 'pure-rand/generator/xoroshiro128plus'
import { noPreferences } from '../problem/preferences'
import { compareShortfalls, type Problem, type Solution } from '../problem/problem'
import { type Margins, oneLook, type Progress } from './look'
import { type Encode, encodesOfSolution, EncodeUses, solutionOfEncodes } from './planState'
import { nothingKnown } from './status'
import { stepsByOwner } from './takingIn'

/** The same show is always searched the same way. */
const seed = 1

/** So many demands are planned anew at once, and owners that are left out besides. */
const most = { demands: 12, leftOut: 4 } as const

/** A part is searched for so many steps; when so many parts have brought nothing it is enough. */
const stepsForPart = 1000
const partsInVain = 25

/** What a plan frees of itself: some of its encodes with all whom they serve, and some that it leaves out. */
interface Freed {
  encodes: ReadonlySet<number>
  demands: readonly number[]
}

/**
 * Makes a plan better part by part where there are too many demands to search all of them at once: again
 * and again some encodes are freed, and whom they serve is planned anew with all that the others leave
 * of the resources (a large neighbourhood search in which every neighbourhood is solved by branch and
 * bound; "fix and optimize", Pochet and Wolsey 2006; from memory). It proves nothing. Yields the best
 * plan so far, so that it can be stopped.
 */
export function* reoptimised(
  uses: EncodeUses,
  start: Solution,
  marginsOf: (part: Problem) => Margins,
  maxSteps: number,
): Generator<Progress, Progress> {
  const { problem } = uses
  const random = xoroshiro128plus(seed)
  const below = (count: number): number => uniformInt(random, 0, count - 1)
  let best: Progress = { solution: start, status: nothingKnown }
  let encodes = encodesOfSolution(problem, start)
  let steps = 0
  for (let inVain = 0; inVain < partsInVain && steps < maxSteps; inVain += 1) {
    const freed = drawn(problem, encodes, below)
    const kept = encodes.filter((_, index) => !freed.encodes.has(index))
    const own = encodes.filter((_, index) => freed.encodes.has(index))
    const placeOf = new Map(freed.demands.map((demand, place) => [demand, place]))
    const part = new EncodeUses(leftFor(uses, kept, freed.demands), noPreferences)
    const before = solutionOfEncodes(
      part,
      renumbered(own, (demand) => placeOf.get(demand)!),
    )
    const run = oneLook(part, before, marginsOf(part.problem), 'first')
    let after = before
    for (let step = 0; step < stepsForPart; step += 1, steps += 1) {
      const { value, done } = run.next()
      if (value.solution) after = value.solution
      if (done) break
      yield best
    }
    if (!isBetter(after, before)) continue
    const made = encodesOfSolution(part.problem, after)
    encodes = [...kept, ...renumbered(made, (place) => freed.demands[place]!)]
    best = { solution: solutionOfEncodes(uses, encodes), status: nothingKnown }
    inVain = -1
  }
  return best
}

const isBetter = ({ worth: a }: Solution, { worth: b }: Solution): boolean =>
  (compareShortfalls(a, b) || a.scoreUnits - b.scoreUnits) > 0

const renumbered = (encodes: readonly Encode[], numberOf: (demand: number) => number): Encode[] =>
  encodes.map((encode) => ({
    ...encode,
    serves: encode.serves.map(({ demand, relay }) => ({ demand: numberOf(demand), relay })),
  }))

/** Some encodes, mostly of one picture, so that those whom they serve could share others; owners stay whole. */
function drawn(
  problem: Problem,
  encodes: readonly Encode[],
  below: (count: number) => number,
): Freed {
  const { demands } = problem
  const owners = stepsByOwner(problem)
  const stepsOf = new Map(owners.map((steps) => [demands[steps[0]!]!.owner, steps]))
  const encodeOf = new Map(
    encodes.flatMap(({ serves }, index) => serves.map(({ demand }) => [demand, index] as const)),
  )
  const pictureOf = ({ serves: [first] }: Encode): string => demands[first!.demand]!.picture
  let freed: ReadonlySet<number> = new Set<number>()
  const servedBy = (those: Iterable<number>): number[] =>
    [...those].flatMap((index) => encodes[index]!.serves.map(({ demand }) => demand))
  const picture = encodes.length > 0 ? pictureOf(encodes[below(encodes.length)]!) : ''
  for (let tries = 0; tries < 3 * encodes.length; tries += 1) {
    const next = below(encodes.length)
    if (pictureOf(encodes[next]!) !== picture && below(3) > 0) continue
    const more = new Set([...freed, next])
    // The set grows as it is walked: with an owner come all encodes that serve it.
    for (const index of more)
      for (const demand of servedBy([index]))
        for (const step of stepsOf.get(demands[demand]!.owner)!) {
          const other = encodeOf.get(step)
          if (other !== undefined) more.add(other)
        }
    if (servedBy(more).length <= most.demands) freed = more
  }
  const out = owners.filter(([first]) => !encodeOf.has(first!))
  const alsoOut = new Set<number>()
  for (let count = 0; count < Math.min(most.leftOut, out.length); count += 1)
    for (const step of out[below(out.length)]!) alsoOut.add(step)
  return { encodes: freed, demands: [...servedBy(freed), ...alsoOut].sort((a, b) => a - b) }
}

/** The problem of some demands, with all that the encodes of the others leave; a relay that is sent to takes nothing else. */
function leftFor(uses: EncodeUses, kept: readonly Encode[], demands: readonly number[]): Problem {
  const { problem } = uses
  let { uploadKbps, diskMegabytes } = problem
  const devices = problem.devices.map((device) => ({ ...device }))
  const taken = new Set<number>()
  for (const encode of kept) {
    const use = uses.of(encode)!
    uploadKbps -= use.uploadKbps
    diskMegabytes -= use.diskMegabytes
    const device = devices[encode.device]!
    device.maxLoad -= use.processorLoad + use.otherLoad
    if (device.sessions !== null) device.sessions -= 1
    for (const { relay } of encode.serves) if (relay !== null) taken.add(relay)
  }
  const left = demands.map((index) => {
    const demand = problem.demands[index]!
    return { ...demand, relays: demand.relays.filter((relay) => !taken.has(relay)) }
  })
  return { ...problem, uploadKbps, diskMegabytes, devices, demands: left }
}
