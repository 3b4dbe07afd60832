import { describe, expect, it } from 'vitest'
import { keysInWords } from '~/commands/keys'
import { fileNameFor } from '~/composables/files'

describe('file names', () => {
  it.each([
    ['Night Bloom at Fernhollow', 'Night Bloom at Fernhollow'],
    ['../../etc/passwd', 'etc passwd'],
    ['What? "Now": 1/2 <3>', 'What Now 1 2 3'],
    ['...', 'show'],
    ['x'.repeat(300), 'x'.repeat(100)],
  ])('are made safe from %s', (title, name) => {
    expect(fileNameFor(title)).toBe(name)
  })
})

describe('keys in words', () => {
  it('is cut between characters as a person sees them', () => {
    const family = '👩‍👩‍👧‍👦'
    expect(fileNameFor(family.repeat(120))).toBe(family.repeat(100))
  })

  it('name what is pressed, and what is pressed after it', () => {
    expect(keysInWords('$mod+Shift+z')).toEqual(['Ctrl+Shift+Z'])
    expect(keysInWords('Alt+Digit3')).toEqual(['Alt+3'])
    expect(keysInWords('h l')).toEqual(['H', 'L'])
  })
})
