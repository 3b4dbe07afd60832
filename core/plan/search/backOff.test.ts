import { describe, expect, it } from 'vitest'
import { backOff } from './backOff'

/** At which of so many chances something is tried that is of use at some. */
function triesOf(
  chances: number,
  isOfUse: (chance: number) => boolean,
  passedOverFirst?: number,
): number[] {
  const own = backOff(passedOverFirst)
  const tries: number[] = []
  for (let chance = 0; chance < chances; chance += 1) {
    if (!own.isDue()) continue
    tries.push(chance)
    own.tell(isOfUse(chance))
  }
  return tries
}

describe('what may be of no use', () => {
  it('is tried at every chance while it is of use', () => {
    expect(triesOf(6, () => true)).toEqual([0, 1, 2, 3, 4, 5])
  })

  it('is not tried before its time', () => {
    expect(triesOf(6, () => true, 4)).toEqual([4, 5])
  })

  it('is tried ever less while it is of none', () => {
    expect(triesOf(40, () => false)).toEqual([0, 2, 5, 10, 19, 36])
  })

  it('is tried at every chance again once it was of use', () => {
    expect(triesOf(14, (chance) => chance === 10 || chance === 11)).toEqual([0, 2, 5, 10, 11, 12])
  })
})
