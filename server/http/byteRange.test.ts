import { describe, expect, it } from 'vitest'
import { byteRange } from './byteRange'

describe('byte ranges (RFC 9110, 14.1)', () => {
  it.each([
    [undefined, { start: 0, end: 9999, isPart: false }],
    // The examples of 14.1.2, for a file of 10000 bytes.
    ['bytes=0-499', { start: 0, end: 499, isPart: true }],
    ['bytes=500-999', { start: 500, end: 999, isPart: true }],
    ['bytes=-500', { start: 9500, end: 9999, isPart: true }],
    ['bytes=9500-', { start: 9500, end: 9999, isPart: true }],
    ['bytes=9000-20000', { start: 9000, end: 9999, isPart: true }],
    ['bytes=10000-', null],
    ['bytes=5-2', null],
    // What is not understood is answered with the whole.
    ['bytes=0-1,5-6', { start: 0, end: 9999, isPart: false }],
    ['pages=1-2', { start: 0, end: 9999, isPart: false }],
  ])('%s', (header, wanted) => {
    expect(byteRange(header, 10_000)).toEqual(wanted)
  })
})
