import { runToEnd } from '../runToEnd'
import { describe, expect, it } from 'vitest'
import { type ColumnsAndCurves, columnsAndCurves } from './columns'
import { searchedComponents } from './components'
import type { Problem } from '../problem/problem'
import { showProblem } from '../problem/showProblem'
import { randomShow } from '../tests/testShows'

const weights = { scoreUnit: 1000, encode: 100 }
const problems = Array.from({ length: 24 }, (_, seed): Problem => {
  const options = {
    destinations: 2 + (seed % 5),
    relay: true,
    recording: seed % 2 === 0,
    pins: true,
  }
  return showProblem(randomShow(seed, { ...options, grain: seed % 3 === 0 ? 'fine' : 'coarse' }))
    .problem
})

/** Each column as words, with the points of its curve. */
function listed(
  { components, curves }: ColumnsAndCurves,
  isAsked: (subproblem: number, column: number) => boolean,
) {
  return components.map((columns, subproblem) =>
    Array.from({ length: columns.count }, (_, column) => column)
      .filter((column) => isAsked(subproblem, column))
      .map((column) => {
        const [from, to] = [
          curves.first[columns.curve[column]!]!,
          curves.first[columns.curve[column]! + 1]!,
        ]
        const routes = columns.routes[columns.group[column]!]!
        const own = [columns.mask, columns.shape, columns.device, columns.load, columns.disk]
        return [
          ...own.map((field) => field[column]),
          routes.join(' '),
          curves.wire.slice(from, to).join(' '),
          curves.value.slice(from, to).join(' '),
        ].join(' | ')
      })
      .sort(),
  )
}

describe('columns', () => {
  it('of which nobody is left out or below the floor are the same, made alone or among all', () => {
    for (const problem of problems) {
      const components = searchedComponents(problem)
      const all = runToEnd(columnsAndCurves(problem, components, weights))
      const whole = runToEnd(columnsAndCurves(problem, components, weights, { isWhole: true }))
      const isWhole = (subproblem: number, column: number): boolean =>
        all.components[subproblem]!.below[column] === 0 &&
        all.components[subproblem]!.leftOutWeight[column] === 0
      expect(listed(whole, () => true)).toEqual(listed(all, isWhole))
    }
  })

  it('say of a bitrate what its members get and what it takes', () => {
    let points = 0
    for (const problem of problems) {
      const { components, curves } = runToEnd(
        columnsAndCurves(problem, searchedComponents(problem), weights),
      )
      for (const columns of components)
        for (let column = 0; column < columns.count; column += 1) {
          if (columns.device[column]! < 0) continue
          const shape = columns.shape[column]!
          const served = columns.members.filter((_, bit) => columns.mask[column]! & (1 << bit))
          const routes = columns.routes[columns.group[column]!]!
          const relayed = [...new Set(routes)].filter((route) => route >= 0)
          const first = curves.first[columns.curve[column]!]!
          const last = curves.first[columns.curve[column]! + 1]! - 1
          for (const point of [first, (first + last) >> 1, last]) {
            points += 1
            const bitrate = curves.bitrate[point]!
            const choices = served.map((demand) =>
              problem.demands[demand]!.choices.find((choice) => choice.shape === shape)!,
            )
            const units = choices.map(({ first, scores }) => scores[bitrate - first]!)
            const sent = choices.map(({ wireKbps }, index) =>
              routes[index]! < 0 ? wireKbps[bitrate]! : 0,
            )
            const passedOn = relayed.map(
              (relay) => problem.relays[relay]!.wires.get(shape)!.wireKbps[bitrate]!,
            )
            const wire = [...sent, ...passedOn].reduce((sum, each) => sum + each, 0)
            const recorded = choices.filter(({ diskMegabytes }) => diskMegabytes !== null).length
            expect(Math.min(...units)).toBeGreaterThanOrEqual(0)
            expect(curves.wire[point]).toBe(wire)
            expect(curves.value[point]).toBe(
              units.reduce((sum, each) => sum + each, 0) * weights.scoreUnit -
                weights.encode -
                wire -
                recorded * problem.bitratesKbps[bitrate]!,
            )
            const below = served.filter(
              (demand, index) => units[index]! < problem.demands[demand]!.floorUnits,
            )
            expect(columns.below[column]).toBe(below.length)
          }
        }
    }
    expect(points).toBeGreaterThan(1000)
  })
})
