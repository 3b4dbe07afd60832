import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { cleanSvg } from './cleanSvg'
import { mostMilliseconds, runsOf } from '../../tests/tier'

const svg = (inside: string, attributes = 'width="40" height="20"') =>
  `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" ${attributes}>${inside}</svg>`

/** What a browser could run or load from the outside. */
const harmful =
  /<\s*(script|foreignObject|iframe|animate|set|handler|audio|video)|\son\w+\s*=|javascript:|@import|https?:\/\/(?!www\.w3\.org)/i

describe('cleaning an SVG', () => {
  it.each([
    ['a script', '<script>alert(1)</script>'],
    ['a script in CDATA', '<script><![CDATA[alert(1)]]></script>'],
    ['an event', '<rect onclick="alert(1)" width="1" height="1"/>'],
    ['an event in another case', '<rect oNLoad="alert(1)"/>'],
    [
      'foreign content',
      '<foreignObject><body xmlns="http://www.w3.org/1999/xhtml"><img/></body></foreignObject>',
    ],
    ['another namespace', '<html:iframe xmlns:html="http://www.w3.org/1999/xhtml"/>'],
    ['a link', '<a href="https://elsewhere.example"><rect/></a>'],
    ['a picture from elsewhere', '<image href="https://elsewhere.example/a.png"/>'],
    ['the same by the older name', '<image xlink:href="https://elsewhere.example/a.png"/>'],
    ['a part of another file', '<use href="other.svg#a"/>'],
    ['an SVG within an SVG', '<image href="data:image/svg+xml;base64,PHN2Zy8+"/>'],
    ['a style from elsewhere', '<style>@import url(https://elsewhere.example/a.css);</style>'],
    ['a style that loads', '<style>rect { fill: url(https://elsewhere.example/a) }</style>'],
    ['a style attribute that loads', '<rect style="fill:url(\'https://elsewhere.example\')"/>'],
    ['an escaped import', '<style>@\\69mport "https://elsewhere.example/a.css";</style>'],
    ['an escaped address', '<rect style="fill:u\\72l(https://elsewhere.example)"/>'],
    [
      'a set of pictures',
      '<rect style="background:image-set(&quot;https://elsewhere.example/a&quot; 1x)"/>',
    ],
    [
      'an animation that sets an address',
      '<animate attributeName="href" to="javascript:alert(1)"/>',
    ],
  ])('takes out %s', (_name, inside) => {
    const result = cleanSvg(svg(inside))
    expect(result.ok).toBe(true)
    if (!result.ok) return
    expect(result.svg).not.toMatch(harmful)
    expect(result.removed.length).toBeGreaterThan(0)
  })

  it('leaves what draws as it was', () => {
    const inside =
      '<defs><linearGradient id="g"><stop offset="0" stop-color="#fff"/></linearGradient></defs><g transform="rotate(5)"><path d="M0 0L9 9" fill="url(#g)"/><text x="1" y="2">a &amp; b</text><image href="data:image/png;base64,iVBORw0KGgo="/></g>'
    const result = cleanSvg(svg(inside))
    expect(result).toMatchObject({ ok: true, removed: [] })
    expect(result.ok && result.svg.replaceAll(/\s?xmlns(:\w+)?="[^"]*"/g, '')).toContain(
      inside.replaceAll(/\s?xmlns(:\w+)?="[^"]*"/g, ''),
    )
  })

  it.each([
    ['width="40" height="20"', 40, 20],
    ['viewBox="0 0 640 360"', 640, 360],
    ['width="320" viewBox="0 0 640 360"', 320, 180],
    ['width="100%" height="100%" viewBox="0 0 30 60"', 30, 60],
    // CSS 2.1, 10.3.2: a replaced element without a size of its own.
    ['', 300, 150],
  ])('knows the size of one with %s', (attributes, width, height) => {
    expect(cleanSvg(svg('', attributes))).toMatchObject({ ok: true, width, height })
  })

  it.each([
    [
      'entities',
      '<!DOCTYPE svg [<!ENTITY a "aaaa">]><svg xmlns="http://www.w3.org/2000/svg">&a;</svg>',
    ],
    ['another root', '<html xmlns="http://www.w3.org/1999/xhtml"/>'],
    ['a damaged file', svg('<g>').replace('</svg>', '')],
    ['nothing', ''],
  ])('refuses %s', (_name, text) => {
    expect(cleanSvg(text).ok).toBe(false)
  })

  it('never throws and never lets harm through, however it is mangled', () => {
    const whole = svg('<script>alert(1)</script><g onclick="x"><rect style="fill:red"/></g>')
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat(whole.length), fc.string({ maxLength: 6 })), { maxLength: 6 }),
        (changes) => {
          const mangled = changes.reduce(
            (text, [at, put]) => text.slice(0, at) + put + text.slice(at + put.length),
            whole,
          )
          const result = cleanSvg(mangled)
          if (result.ok) expect(result.svg).not.toMatch(/<\s*script|\sonclick\s*=/i)
        },
      ),
      { numRuns: runsOf(500) },
    )
  })
})

describe('an SVG that is made to cost time', () => {
  const timed = (text: string): { milliseconds: number; result: ReturnType<typeof cleanSvg> } => {
    const start = performance.now()
    const result = cleanSvg(text)
    return { milliseconds: performance.now() - start, result }
  }
  /** The quickest of a few: what holds the computer up for a moment is not the text. */
  const quickest = (text: string): number =>
    Math.min(...Array.from({ length: 5 }, () => timed(text).milliseconds))
  /** Ten times the size may cost some fifty times the time, never a hundred; what is over at once says nothing. */
  it.each<[string, (count: number) => string]>([
    ['elements to be taken out', (count) => svg('<a/>'.repeat(count))],
    ['attributes to be taken out', (count) => svg(`<g ${manyAttributes(count)}/>`)],
    ['addresses that do not end', (count) => svg(`<style>${'url( '.repeat(count)}</style>`)],
    ['document types', (count) => '<!DOCTYPE '.repeat(count) + svg('')],
    ['white space in addresses', (count) => svg(`<style>url(${' '.repeat(count)}</style>`)],
  ])('by %s takes no more than its length', (_name, textOf) => {
    const [small, large] = [quickest(textOf(1500)), quickest(textOf(15_000))]
    expect(large).toBeLessThan(50 * Math.max(small, mostMilliseconds(2)))
  })

  it.each([
    ['nested 5,000 deep', svg('<g>'.repeat(5000) + '</g>'.repeat(5000)), /nested over/],
    ['of 30,000 elements', svg('<g/>'.repeat(30_000)), /elements/],
    ['with a width of 400 digits', svg('', `width="${'9'.repeat(400)}" height="20"`), /no size/],
  ])('%s is refused', (_name, text, words) => {
    const { result } = timed(text)
    expect(result.ok ? '' : result.message).toMatch(words)
  })
})

const manyAttributes = (count: number): string =>
  Array.from({ length: count }, (_, index) => `on${index}="x"`).join(' ')
