import { describe, expect, it } from 'vitest'
import { noPreferences } from '../problem/preferences'
import { showProblem } from '../problem/showProblem'
import { timesOf } from '../../../tests/tier'
import { check } from '../tests/propertyRuns'
import { wildShows } from '../tests/wildShows'
import { type Encode, EncodeUses } from './planState'

/** Each demand by itself, on every way, and with the next one, whether or not the two may share. */
function everyServed({ demands }: EncodeUses['problem']): Encode['serves'][] {
  const ways = demands.flatMap(({ relays }, demand) =>
    [null, ...relays].map((relay) => ({ demand, relay })),
  )
  return ways.flatMap((way, index) => {
    const next = ways.slice(index + 1).find(({ demand }) => demand !== way.demand)
    return next ? [[way], [way, next]] : [[way]]
  })
}

describe('what an encode uses', () => {
  it('is the same looked up for one bitrate as in a table of all, and none is lower than the lowest', () => {
    let compared = 0
    check(wildShows(4), 40, (show) => {
      const { problem } = showProblem(show)
      const [alone, tabled] = [0, 1].map(() => new EncodeUses(problem, noPreferences)) as [
        EncodeUses,
        EncodeUses,
      ]
      for (const serves of everyServed(problem))
        for (const shape of alone.shapesFor(serves).slice(0, 12)) {
          const table = tabled.tableFor(serves, shape)
          const row = alone.rowFor(serves, shape)
          const lowest = (isAboveFloor: boolean): number =>
            row ? alone.lowestBitrate(row, isAboveFloor) : -1
          expect(lowest(false)).toBe(table?.accepted[0] ?? -1)
          const aboveFloor = table?.accepted.find((bitrate) => table.below[bitrate] === 0)
          expect(lowest(true)).toBe(aboveFloor ?? -1)
          expect(row?.maxScoreUnits ?? 0).toBeGreaterThanOrEqual(
            Math.max(0, ...(table?.scoreUnits ?? [])),
          )
          for (const { device } of alone.placesFor(serves, shape))
            for (let bitrate = 0; bitrate < problem.bitratesKbps.length; bitrate += 7) {
              const encode = { serves, shape, device, bitrate }
              const use = alone.of(encode)
              expect(use).toEqual(tabled.of(encode))
              // By the sums that they are: what each of those served is worth there, and every send.
              if (!use) continue
              compared += 1
              let [units, kbps] = [0, 0]
              for (const { demand, relay } of serves) {
                const choice = problem.demands[demand]!.choices.find(
                  (each) => each.shape === shape,
                )!
                units += choice.scores[bitrate - choice.first]!
                if (relay === null) kbps += choice.wireKbps[bitrate]!
              }
              problem.relays.forEach(({ wires }, relay) => {
                if (serves.some((each) => each.relay === relay))
                  kbps += wires.get(shape)!.wireKbps[bitrate]!
              })
              expect([use.scoreUnits, use.uploadKbps]).toEqual([units, kbps])
            }
        }
    })
    expect(compared).toBeGreaterThan(timesOf(1000))
  })
})
