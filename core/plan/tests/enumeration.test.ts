import { describe, expect, it } from 'vitest'
import { compareWorth, type Problem, type Shape, type Worth } from '../problem/problem'
import { showProblem } from '../problem/showProblem'
import { solve } from '../search/solve'
import { randomShow } from './testShows'
import { wildPicture } from './wildPictures'
import { casesOf } from '../../../tests/tier'

/** One thing that a demand can get. */
interface Option {
  shape: number
  bitrate: number
  device: number
  load: number
  score: number
  wire: number
  isEarned: boolean
}

function optionsOf(problem: Problem, index: number): (Option | null)[] {
  const demand = problem.demands[index]!
  const options = demand.choices.flatMap(({ shape, first, scores, earned, wireKbps }) =>
    problem.places[shape]!.filter(
      ({ device }) => demand.devices === null || demand.devices.includes(device),
    ).flatMap(({ device, load }) =>
      [...scores].flatMap((score, at): Option[] =>
        score < 0
          ? []
          : [
              {
                ...{ shape, bitrate: first + at, device, load, score },
                wire: wireKbps[first + at]!,
                isEarned: earned === null || earned[at] === 1,
              },
            ],
      ),
    ),
  )
  return demand.mustKeep ? options : [null, ...options]
}

/** A size is earned by somebody whom its encode serves, or the smallest that all of them accept. */
function hasEarnedItsPlace(
  { shapes, demands }: Problem,
  shape: number,
  served: readonly { demand: number; isEarned: boolean }[],
): boolean {
  const own = shapes[shape]!
  const isSmaller = (other: Shape): boolean =>
    other.codec === own.codec &&
    other.effort === own.effort &&
    other.width <= own.width &&
    other.height <= own.height &&
    other.framesPerSecond <= own.framesPerSecond &&
    (other.width < own.width || other.framesPerSecond < own.framesPerSecond)
  const acceptsAll = (other: number): boolean =>
    served.every(({ demand }) => demands[demand]!.choices.some((choice) => choice.shape === other))
  return (
    served.some(({ isEarned }) => isEarned) ||
    !shapes.some((other, index) => isSmaller(other) && acceptsAll(index))
  )
}

/** What a choice for every demand is worth; null where it does not fit. */
function worthOf(problem: Problem, chosen: readonly (Option | null)[]): Worth | null {
  const worth: Worth = { leftOutWeight: 0, belowFloor: 0, scoreUnits: 0, encodes: 0, kbps: 0 }
  const encodes = new Map<string, Option>()
  const servedBy = new Map<string, { demand: number; isEarned: boolean }[]>()
  const owners = new Map<string, boolean>()
  for (const [index, option] of chosen.entries()) {
    const demand = problem.demands[index]!
    const isLeftOut = option === null
    // The steps of a ladder are left out together.
    if ((owners.get(demand.owner) ?? isLeftOut) !== isLeftOut) return null
    if (!owners.has(demand.owner) && isLeftOut) worth.leftOutWeight += demand.priority
    owners.set(demand.owner, isLeftOut)
    if (!option) continue
    worth.scoreUnits += option.score
    if (option.score < demand.floorUnits) worth.belowFloor += 1
    worth.kbps += option.wire
    const { shape, bitrate, device } = option
    const key = `${demand.picture} ${demand.sound} ${shape} ${bitrate} ${device}`
    encodes.set(key, option)
    servedBy.set(key, [...(servedBy.get(key) ?? []), { demand: index, isEarned: option.isEarned }])
  }
  for (const [key, served] of servedBy)
    if (!hasEarnedItsPlace(problem, encodes.get(key)!.shape, served)) return null
  if (worth.kbps > problem.uploadKbps) return null
  for (const [index, { maxLoad, sessions }] of problem.devices.entries()) {
    const own = [...encodes.values()].filter(({ device }) => device === index)
    if (own.length > (sessions ?? Infinity)) return null
    if (own.reduce((sum, { load }) => sum + load, 0) > maxLoad + 1e-9) return null
  }
  worth.encodes = encodes.size
  return worth
}

function bestByEnumeration(problem: Problem): Worth | null {
  const options = problem.demands.map((_, index) => optionsOf(problem, index))
  let best: Worth | null = null
  const walk = (at: number, chosen: (Option | null)[]): void => {
    if (at === options.length) {
      const worth = worthOf(problem, chosen)
      if (worth && (!best || compareWorth(worth, best) > 0)) best = worth
      return
    }
    for (const option of options[at]!) walk(at + 1, [...chosen, option])
  }
  walk(0, [])
  return best
}

const combinations = (problem: Problem): number =>
  problem.demands.reduce((product, _, index) => product * optionsOf(problem, index).length, 1)

describe('a plan, against trying every combination', () => {
  const problems = Array.from({ length: 200 }, (_, index) => {
    const seed = 5000 + index
    const destinations = 1 + (index % 2)
    const show = randomShow(seed, { destinations, grain: 'coarse', pins: index % 3 > 0 })
    // Every other one is judged by a picture that was measured, as no kind is.
    const judged =
      index % 4 < 2 ? show : { ...show, pictureKind: 'own' as const, ownPicture: wildPicture(seed) }
    return { seed, problem: showProblem(judged).problem }
  }).filter(({ problem }) => combinations(problem) < 60_000)

  it('tries at least fifty', () => {
    expect(problems.length).toBeGreaterThan(50)
  })

  it.each(casesOf(problems, (_, index) => index % 4 === 0))(
    'is the best of all, seed $seed',
    ({ problem }) => {
      const { solution, status } = solve(problem)
      expect(status.name).toBe(solution ? 'optimal' : 'infeasible')
      expect(solution?.worth ?? null).toEqual(bestByEnumeration(problem))
    },
  )
})
