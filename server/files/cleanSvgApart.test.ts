import { expect, it } from 'vitest'
import { cleanSvgApart } from './cleanSvgApart'

const svg = (inside: string): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" width="10" height="10">${inside}</svg>`

it('cleans an SVG in a thread of its own', async () => {
  const cleaned = await cleanSvgApart(svg('<script>alert(1)</script><rect width="1" height="1"/>'))
  expect(cleaned.ok && cleaned.svg).toContain('<rect')
  expect(cleaned.ok && cleaned.svg).not.toContain('script')
})

it('gives up at the deadline, and holds up nobody until then', async () => {
  let others = 0
  const text = svg('<g fill="red">'.repeat(90) + '<rect/>'.repeat(15_000) + '</g>'.repeat(90))
  const cleaning = cleanSvgApart(text, { milliseconds: 60 })
  // Cleaning on this thread would be over, or under way, before the loop gets here.
  setImmediate(() => (others += 1))
  expect(await cleaning).toMatchObject({ ok: false })
  expect(others).toBe(1)
})
