import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { setOf } from './bitSets'
import { addUse, columnUseOf, costOfUse, isWithin } from './columnUse'
import { resourceLayoutOf } from './resources'
import { problem, resources, useOf, written } from './testColumns'

describe('what columns use', () => {
  it('is what each was drawn to use, can be taken away again, and costs what its parts cost', () => {
    fc.assert(
      fc.property(
        problem,
        fc.array(fc.integer({ min: 0, max: 9 }), { minLength: 9, maxLength: 9 }),
        ({ components, capacity }, prices) => {
          const { components: made } = written(components)
          made.forEach(({ use, count }, component) => {
            const drawn = [...components[component]!].sort((a, b) => a.mask - b.mask)
            for (let column = 0; column < count; column += 1) {
              const expected = useOf([{ drawn: drawn[column]!, wire: 0 }])
              const used = new Float64Array(expected.length)
              addUse(used, use, column)
              expect([...used]).toEqual(expected)
              expect(costOfUse(Float64Array.from(prices), use, column)).toBeCloseTo(
                expected.reduce((sum, amount, index) => sum + amount * prices[index]!, 0),
                9,
              )
              expect(isWithin(resources(capacity).capacity, used, use, column)).toBe(
                expected.every((amount, index) => amount <= capacity[index]!),
              )
              addUse(used, use, column, -1)
              expect(used.every((amount) => amount === 0)).toBe(true)
            }
          })
        },
      ),
    )
  })

  it('is told of as many relays as a show can have', () => {
    const relays = [0, 31, 32, 48]
    const layout = resourceLayoutOf({ devices: [], relays: { length: 49 } as never })
    const none = Int32Array.of(0)
    const { first, resource, amount } = columnUseOf(
      {
        ...{ count: 1, disk: none, leftOutWeight: none, below: none, device: Int32Array.of(-1) },
        ...{ load: Float64Array.of(0), relays: Float64Array.of(setOf(relays)) },
      },
      layout,
    )
    expect([...first]).toEqual([0, relays.length])
    expect([...resource]).toEqual(relays.map((relay) => layout.relays + relay))
    expect([...amount]).toEqual(relays.map(() => 1))
  })
})
