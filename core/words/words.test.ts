import { describe, expect, it } from 'vitest'
import {
  countInWords,
  kbpsInWords,
  listInWords,
  mbpsInWords,
  megabitUnits,
  pixelUnits,
  rateUnits,
  readQuantity,
  renditionInWords,
} from '.'

describe('typed quantities', () => {
  it.each([
    ['6000', rateUnits, 6000],
    ['4.5 Mb/s', rateUnits, 4500],
    ['4.5Mb/s', rateUnits, 4500],
    ['4500 kb/s', rateUnits, 4500],
    ['6000*0.8', rateUnits, 4800],
    ['(1 + 2) * 3 Mb/s', rateUnits, 9000],
    ['1 Mb/s + 500 kb/s', rateUnits, 1500],
    ['1,920/2', pixelUnits, 960],
    ['4,5', rateUnits, 4.5],
    ['−5 px', pixelUnits, -5],
    ['18200 kb/s', megabitUnits, 18.2],
    ['3 × 4', {}, 12],
  ])('reads %s', (typed, units, value) => {
    const read = readQuantity(typed, units)
    expect(read.ok).toBe(true)
    if (read.ok) expect(read.value).toBeCloseTo(value, 9)
  })

  it.each([
    '',
    'fast',
    '5 apples',
    '1/0',
    'alert(1)',
    'this',
    '2 ** 3',
    '[1]',
    '"5"',
    '1;2',
    '9'.repeat(300),
  ])('refuses %s with what was typed', (typed) => {
    expect(readQuantity(typed, rateUnits)).toMatchObject({ ok: false })
  })
})

describe('numbers in words', () => {
  it('always have their unit', () => {
    expect(kbpsInWords(5300)).toBe('5,300 kb/s')
    expect(mbpsInWords(12_607)).toBe('12.6 Mb/s')
  })

  it('name renditions as the trade does', () => {
    expect(renditionInWords({ width: 1920, height: 1080, framesPerSecond: 60 })).toBe('1080p60')
    expect(renditionInWords({ width: 1080, height: 1920, framesPerSecond: 30 })).toBe(
      '1080×1920 at 30',
    )
  })

  it('make counts and lists', () => {
    expect(countInWords(1, 'send')).toBe('One send')
    expect(countInWords(3, 'send')).toBe('Three sends')
    expect(countInWords(12, 'send')).toBe('12 sends')
    expect(listInWords(['a'])).toBe('a')
    expect(listInWords(['a', 'b', 'c'], 'or')).toBe('a, b or c')
  })
})
