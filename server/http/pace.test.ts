import { expect, it } from 'vitest'
import { turnsAtAPace } from './pace'

it('gives so many turns at once, more with time, and to each name by itself', () => {
  let now = 0
  const takes = turnsAtAPace({ most: 3, aSecond: 1 }, () => now)
  expect([takes('a'), takes('a', 2), takes('a')]).toEqual([true, true, false])
  expect(takes('b', 3)).toBe(true)
  now = 1.5
  expect([takes('a'), takes('a')]).toEqual([true, false])
  now = 100
  expect([takes('a', 4), takes('a', 3), takes('a')]).toEqual([false, true, false])
})
