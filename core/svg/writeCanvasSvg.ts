import { baselinesOf, type MeasureWords, middleOf, type Part, partsOfPlacement } from '../canvas'
import type { CanvasName, Layer, Placement, Show, Source } from '../show'

/** Carries what an SVG has no word for, so that a file of ours comes back as it was. */
export const ownAttribute = 'data-green-mantle'
const backgroundColour = '#0b120e'

const escaped = (text: string): string =>
  text
    .replaceAll('&', '&amp;')
    .replaceAll('<', '&lt;')
    .replaceAll('>', '&gt;')
    .replaceAll('"', '&quot;')
    // XML knows no other control characters.
    .replaceAll(/[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/g, '')

/** JSON in which every character is one that XML has, so that none is lost on the way. */
const plainJson = (value: unknown): string =>
  JSON.stringify(value).replaceAll(
    /[\u007f-\u009f\u2028\u2029\ud800-\udfff\ufffe\uffff]/g,
    (character) => `\\u${character.charCodeAt(0).toString(16).padStart(4, '0')}`,
  )

/** Numbers to a thousandth of a pixel, without trailing zeros. */
const number = (value: number): string => String(Math.round(value * 1000) / 1000)

function attributes(values: Record<string, string | number | undefined>): string {
  return Object.entries(values)
    .flatMap(([name, value]) =>
      value === undefined
        ? []
        : ` ${name}="${typeof value === 'number' ? number(value) : escaped(value)}"`,
    )
    .join('')
}

const fallbackFonts: Record<Extract<Part, { kind: 'words' }>['font'], string> = {
  Literata: "'Literata', serif",
  'Atkinson Hyperlegible Next': "'Atkinson Hyperlegible Next', sans-serif",
  'Atkinson Hyperlegible Mono': "'Atkinson Hyperlegible Mono', monospace",
}

function partSvg(part: Part, source: Source, picture: string | undefined, clip: string): string {
  if (part.kind === 'rectangle')
    return `<rect${attributes({
      ...part.box,
      rx: part.cornerRadius || undefined,
      fill: part.fill ?? 'none',
      'fill-opacity': part.opacity === 1 ? undefined : part.opacity,
      stroke: part.stroke?.colour,
      'stroke-width': part.stroke?.width,
    })}/>`
  if (part.kind === 'words') {
    const x = part.align === 'centre' ? part.box.x + part.box.width / 2 : part.box.x
    const lines = baselinesOf(part).map(
      (y, line) => `<tspan${attributes({ x, y })}>${escaped(part.lines[line] ?? '')}</tspan>`,
    )
    return `<text${attributes({
      'font-family': fallbackFonts[part.font],
      'font-weight': part.weight,
      'font-size': part.fontSize,
      fill: part.colour,
      'text-anchor': part.align === 'centre' ? 'middle' : 'start',
    })}>${lines.join('')}</text>`
  }
  if (!picture) return `<rect${attributes({ ...part.box, fill: '#24332b' })}/>`
  const { box, crop, cornerRadius } = part
  const image = `<svg${attributes({
    ...box,
    viewBox: [crop.x, crop.y, crop.width, crop.height].map(number).join(' '),
    preserveAspectRatio: 'none',
  })}><image${attributes({
    width: source.nativeWidth,
    height: source.nativeHeight,
    preserveAspectRatio: 'none',
    href: picture,
  })}/></svg>`
  if (cornerRadius === 0) return image
  return `<clipPath id="${clip}"><rect${attributes({ ...box, rx: cornerRadius })}/></clipPath><g clip-path="url(#${clip})">${image}</g>`
}

function transformOf(placement: Placement): string {
  const { x, y } = middleOf(placement)
  const { width, height, turnDegrees, flippedAcross, flippedDown } = placement
  const steps = [`translate(${number(x)} ${number(y)})`]
  if (turnDegrees !== 0) steps.push(`rotate(${number(turnDegrees)})`)
  if (flippedAcross || flippedDown)
    steps.push(`scale(${flippedAcross ? -1 : 1} ${flippedDown ? -1 : 1})`)
  steps.push(`translate(${number(-width / 2)} ${number(-height / 2)})`)
  return steps.join(' ')
}

/**
 * One canvas of a scene as SVG: text as text, pictures embedded. `layers` are those on air, front to
 * back; `pictures` are data addresses by source, and a source without one is drawn as an empty box.
 */
export function writeCanvasSvg(
  show: Pick<Show, 'canvasPair' | 'sources' | 'dressing'>,
  layers: readonly Layer[],
  canvas: CanvasName,
  title: string,
  pictures: ReadonlyMap<string, string>,
  measure?: MeasureWords,
): string {
  const size = show.canvasPair[canvas]
  const sources = new Map(show.sources.map((source) => [source.id, source]))
  const groups = layers
    .filter((layer) => layer[canvas].shown)
    .toReversed()
    .flatMap((layer, index) => {
      const source = sources.get(layer.sourceId)
      if (!source) return []
      const placement = layer[canvas]
      const parts = partsOfPlacement({
        placement,
        source,
        dressing: show.dressing,
        canvas: size,
        ...(measure ? { measure } : {}),
      })
      const drawn = parts.map((part, place) =>
        partSvg(part, source, pictures.get(source.id), `clip-${index}-${place}`),
      )
      return `  <g${attributes({
        transform: transformOf(placement),
        opacity: placement.opacityPercent === 100 ? undefined : placement.opacityPercent / 100,
        [ownAttribute]: plainJson({ source, placement }),
      })}><title>${escaped(source.name)}</title>${drawn.join('')}</g>`
    })
  return [
    '<?xml version="1.0" encoding="UTF-8"?>',
    `<svg xmlns="http://www.w3.org/2000/svg"${attributes({
      width: size.width,
      height: size.height,
      viewBox: `0 0 ${size.width} ${size.height}`,
    })}>`,
    `  <title>${escaped(title)}</title>`,
    `  <rect${attributes({ ...size, fill: backgroundColour, [ownAttribute]: 'background' })}/>`,
    ...groups,
    '</svg>',
    '',
  ].join('\n')
}
