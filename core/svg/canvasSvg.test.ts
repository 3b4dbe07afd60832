import { demoShow } from '@green-mantle/demo'
import { DOMParser } from '@xmldom/xmldom'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Placement, Show } from '../show'
import { anyPlacement } from '../canvas/testPlacements'
import { fittedInBox, readCanvasSvg, type SvgItem, writeCanvasSvg } from '.'
import { runsOf } from '../../tests/tier'

const picture = 'data:image/png;base64,iVBORw0KGgo='
const pictures = new Map(demoShow.sources.map(({ id }) => [id, picture]))
const canvas = demoShow.canvasPair.landscape

function items(text: string, size = canvas): SvgItem[] {
  const read = readCanvasSvg(text, size)
  if (!read.ok) throw new Error(read.message)
  return read.items
}
const written = (show: Show, scene = 0) =>
  writeCanvasSvg(show, show.scenes[scene]!.layers, 'landscape', 'A title', pictures)

describe('a canvas as SVG', () => {
  it('is sound XML with text as text and pictures inside', () => {
    const svg = written(demoShow)
    const root = new DOMParser({
      onError: (_level, message) => {
        throw new Error(message)
      },
    }).parseFromString(svg, 'image/svg+xml').documentElement!
    expect([root.getAttribute('width'), root.getAttribute('height')]).toEqual(['1920', '1080'])
    expect(svg).toContain('>Seed fund 62 %</tspan>')
    expect(svg.match(/<image /g)).toHaveLength(4)
    expect(svg).not.toMatch(/https?:\/\/(?!www\.w3\.org)/)
  })

  it('comes back as it was, whatever stands on it and is written on it', () => {
    // Any UTF-16 at all, whether XML has it or not.
    const text = fc.string({
      unit: fc.nat(0xffff).map((code) => String.fromCharCode(code)),
      minLength: 1,
      maxLength: 30,
    })
    fc.assert(
      fc.property(
        anyPlacement,
        text,
        fc.integer({ min: 0, max: 100 }),
        (placement, name, opacity) => {
          const show: Show = structuredClone(demoShow)
          const [layer] = show.scenes[1]!.layers
          layer!.landscape = { ...placement, trim: layer!.landscape.trim, opacityPercent: opacity }
          const source = show.sources.find(({ id }) => id === layer!.sourceId)!
          source.name = name
          if (source.appearance.type === 'alerts') source.appearance.text = name
          const shown = show.scenes[1]!.layers.filter(({ landscape }) => landscape.shown)
          const back = items(written(show, 1))
          expect(back.map(({ placement: there }) => there)).toEqual(
            shown.map(({ landscape }) => landscape),
          )
          expect(back[0]!.source.appearance).toEqual(source.appearance)
        },
      ),
      { numRuns: runsOf(60) },
    )
  })

  it('comes back with the characters that XML parsers frown at', () => {
    const show: Show = structuredClone(demoShow)
    show.sources[0]!.name = '\ufffd \ufffe \u0085 \u2028 \ud83c\udf3c \ud83c'
    expect(items(written(show))[1]!.source.name).toBe(show.sources[0]!.name)
  })

  it('carries a person’s own picture inside', () => {
    const show: Show = structuredClone(demoShow)
    const glasshouse = show.sources.find(({ id }) => id === 'glasshouse')!
    glasshouse.appearance = { type: 'picture file', fileId: 'a'.repeat(64), fileName: 'g.png' }
    expect(items(written(show)).at(-1)).toMatchObject({
      picture,
      source: { name: 'Glasshouse night' },
    })
  })
})

const plain = (inside: string, attributes = 'width="1920" height="1080"') =>
  `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" ${attributes}>${inside}</svg>`

describe('a plain SVG from elsewhere', () => {
  it('gives rectangles, images and text, the last drawn in front', () => {
    const read = items(
      plain(
        `<rect id="Back" x="10" y="20" width="300" height="200" rx="8" fill="tomato"/>` +
          `<image x="50" y="60" width="100" height="80" xlink:href="${picture}"><title>A view</title></image>` +
          `<text x="100" y="200" font-size="40" text-anchor="middle" font-family="Courier New" font-weight="bold" fill="rgb(0, 128, 0)">Hello <tspan>there</tspan></text>`,
      ),
    )
    expect(read.map(({ source }) => [source.kind, source.name])).toEqual([
      ['text', 'Hello there'],
      ['picture', 'A view'],
      ['colour', 'Back'],
    ])
    expect(read[2]!.placement).toMatchObject({
      x: 10,
      y: 20,
      width: 300,
      height: 200,
      cornerRadius: 8,
    })
    // CSS Color: tomato is #ff6347.
    expect(read[2]!.source.appearance).toEqual({ type: 'colour', colour: '#ff6347' })
    expect(read[1]).toMatchObject({
      picture,
      keepsProportions: true,
      placement: { x: 50, width: 100 },
    })
    expect(read[0]!.source.appearance).toMatchObject({
      text: 'Hello there',
      sizePixels: 40,
      weight: 700,
      font: 'Atkinson Hyperlegible Mono',
      colour: '#008000',
    })
    const { x, width, y, height } = read[0]!.placement
    expect(x + width / 2).toBeCloseTo(100, 1)
    expect(y).toBeLessThan(200 - 0.35 * 40)
    expect(y + height).toBeGreaterThan(200)
  })

  it.each<[string, string, Partial<Placement>]>([
    [
      'moved by its group',
      '<g transform="translate(100 50)"><rect width="10" height="20" fill="red"/></g>',
      { x: 100, y: 50 },
    ],
    [
      'scaled',
      '<g transform="scale(2 3)"><rect x="5" width="10" height="20" fill="red"/></g>',
      { x: 10, width: 20, height: 60 },
    ],
    [
      'turned about its middle',
      '<rect width="200" height="100" fill="red" transform="rotate(90 100 50)"/>',
      { x: 0, y: 0, width: 200, height: 100, turnDegrees: 90 },
    ],
    [
      'mirrored',
      '<rect x="0" width="100" height="50" fill="red" transform="translate(300 0) scale(-1 1)"/>',
      { x: 200, y: 0, width: 100, turnDegrees: 180, flippedDown: true },
    ],
    [
      'by a matrix',
      '<rect width="10" height="10" fill="red" transform="matrix(0 2 -2 0 50 60)"/>',
      { width: 20, height: 20, turnDegrees: 90 },
    ],
    [
      'translucent',
      '<g opacity="0.5"><rect width="9" height="9" fill="red" fill-opacity="0.5"/></g>',
      { opacityPercent: 25 },
    ],
    [
      'by its style',
      '<rect width="50%" height="10" style="fill: #ff0000; opacity: 0.5"/>',
      { width: 960, opacityPercent: 50 },
    ],
    [
      'in a nested svg',
      '<svg x="100" y="100" width="200" height="100" viewBox="0 0 20 10"><rect width="10" height="10" fill="red"/></svg>',
      { x: 100, y: 100, width: 100, height: 100 },
    ],
  ])('places a rectangle that is %s', (_name, inside, wanted) => {
    expect(items(plain(inside))[0]!.placement).toMatchObject(wanted)
  })

  it('fits a drawing of another size into the canvas, about the middle', () => {
    const [item] = items(
      plain('<rect width="100" height="100" fill="red"/>', 'viewBox="0 0 100 100"'),
      { width: 1080, height: 1920 },
    )
    expect(item!.placement).toMatchObject({ x: 0, y: 420, width: 1080, height: 1080 })
  })

  it('lists what can’t be taken, and takes the rest', () => {
    const read = readCanvasSvg(
      plain(
        '<path d="M0 0"/><path d="M1 1"/><circle r="5"/><rect width="5" height="5" fill="url(#g)"/>' +
          '<image width="5" height="5" href="photo.png"/><style>rect{fill:red}</style>' +
          '<rect width="5" height="5" fill="red" transform="skewX(20)"/><rect width="5" height="5" fill="red"/>',
      ),
      canvas,
    )
    expect(read.ok && read.items).toHaveLength(1)
    expect(read.ok && read.notTaken).toEqual([
      'an element "path" (2 times)',
      'an element "circle"',
      'a rectangle without a plain colour',
      'an image that is not written into the file as PNG, JPEG, WebP or SVG',
      'a style sheet',
      'a rectangle that is skewed or has no size',
    ])
  })

  it('is refused with a reason where it is none', () => {
    for (const text of ['', '<svg', '<html/>', '<!DOCTYPE svg [<!ENTITY a "b">]><svg/>'])
      expect(readCanvasSvg(text, canvas).ok).toBe(false)
  })

  it('never throws, however a file is damaged', () => {
    const whole = written(demoShow)
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat(whole.length), fc.string({ maxLength: 8 })), { maxLength: 5 }),
        (changes) => {
          const damaged = changes.reduce(
            (text, [at, put]) => text.slice(0, at) + put + text.slice(at + 1),
            whole,
          )
          const read = readCanvasSvg(damaged, canvas)
          if (read.ok)
            for (const { placement } of read.items) expect(Number.isFinite(placement.x)).toBe(true)
        },
      ),
      { numRuns: runsOf(300) },
    )
  })

  it('fits a picture into its box as SVG’s "meet" does', () => {
    const box = { ...demoShow.scenes[0]!.layers[0]!.landscape, x: 0, y: 0, width: 200, height: 200 }
    expect(fittedInBox(box, { width: 1920, height: 1080 })).toMatchObject({
      x: 0,
      y: 43.75,
      width: 200,
      height: 112.5,
    })
  })
})
