import { expect, it } from 'vitest'
import { noPreferences } from '../problem/preferences'
import { showProblem } from '../problem/showProblem'
import { timesOf } from '../../../tests/tier'
import { check } from '../tests/propertyRuns'
import { wildShows } from '../tests/wildShows'
import { bitratesToTry } from './bitratesToTry'
import { EncodeUses } from './planState'

it('the bitrates worth trying are accepted, with the highest that there is room for, and none twice', () => {
  let compared = 0
  check(wildShows(4), 40, (show) => {
    const { problem } = showProblem(show)
    const uses = new EncodeUses(problem, noPreferences)
    for (const [demand, { direct }] of problem.demands.entries()) {
      const serves = [{ demand, relay: null }]
      for (const shape of direct ? uses.shapesFor(serves).slice(0, 12) : []) {
        const row = uses.rowFor(serves, shape)
        const table = row && uses.tableOf(row)
        const lowest = table?.accepted[0]
        if (!row || !table || lowest === undefined) continue
        for (const shareLeft of [0, 0.3, 1]) {
          const spareKbps = problem.uploadKbps * shareLeft
          const plan = { uploadKbps: problem.uploadKbps - spareKbps + table.uploadKbps[lowest]! }
          const encode = { serves, shape, device: 0, bitrate: lowest }
          const tried = bitratesToTry(uses, plan, encode, row)
          expect(new Set(tried).size).toBe(tried.length)
          for (const bitrate of tried) expect(table.accepted).toContain(bitrate)
          const withinSpare = table.accepted.filter((at) => table.uploadKbps[at]! <= spareKbps)
          if (withinSpare.length === 0) continue
          compared += 1
          expect(tried).toContain(withinSpare.at(-1))
        }
      }
    }
  })
  expect(compared).toBeGreaterThan(timesOf(200))
})
