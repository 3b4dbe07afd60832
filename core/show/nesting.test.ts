import { demoShow } from '@green-mantle/demo'
import fc from 'fast-check'
import { expect, it } from 'vitest'
import { nestsDeeper } from './nesting'

const bytes = (text: string): Uint8Array => new TextEncoder().encode(text)
const depthOf = (value: unknown): number =>
  typeof value === 'object' && value !== null
    ? 1 + Math.max(0, ...Object.values(value).map(depthOf))
    : 0

it('is told of any JSON as it would be of what it stands for', () => {
  fc.assert(
    fc.property(fc.json({ maxDepth: 8 }), fc.nat(10), (text, max) => {
      expect(nestsDeeper(bytes(text), max)).toBe(depthOf(JSON.parse(text)) > max)
    }),
  )
})

it('counts no bracket within a text, and a show is far from the limit', () => {
  expect(nestsDeeper(bytes(JSON.stringify(['[[["{{\\', { a: ']' }])), 2)).toBe(false)
  expect(nestsDeeper(bytes('['.repeat(500_000)))).toBe(true)
  expect(nestsDeeper(bytes(JSON.stringify(demoShow)), 21)).toBe(false)
})
