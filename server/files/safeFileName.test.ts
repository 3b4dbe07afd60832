import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { safeFileName } from './safeFileName'

describe('the name of a file', () => {
  it.each([
    ['Night / Bloom: "part" 2', 'Night Bloom part 2'],
    ['../../etc/passwd', '.. .. etc passwd'],
    ['花が咲く夜', '花が咲く夜'],
    ['???', 'recording'],
  ])('of %s is %s', (text, name) => expect(safeFileName(text)).toBe(name))

  it('has no more bytes than it may, no half of a character and no way to another folder', () => {
    fc.assert(
      fc.property(
        fc.string({ unit: 'grapheme', maxLength: 300 }),
        fc.nat({ max: 100 }),
        (text, extra) => {
          const name = safeFileName(text, 10 + extra)
          expect(Buffer.byteLength(name)).toBeLessThanOrEqual(10 + extra)
          // Half of a character cannot be written.
          expect(() => encodeURIComponent(name)).not.toThrow()
          expect(name).not.toMatch(/[/\\\0]/)
          expect(name).not.toBe('')
        },
      ),
    )
  })
})
