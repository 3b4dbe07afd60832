import { matchProposals } from '@green-mantle/core/matching'
import { makeKeyer } from '@green-mantle/core/picture'
import { newLayer, newSource, type Show, defaultChromaKey } from '@green-mantle/core/show'
import { demoShow } from '@green-mantle/demo'
import type { Figure } from './figure'

const runs = 9

/** The median of several runs in milliseconds, after one that is not counted. */
function medianMilliseconds(work: () => void): number {
  work()
  const times = Array.from({ length: runs }, () => {
    const start = performance.now()
    work()
    return performance.now() - start
  })
  return times.sort((a, b) => a - b)[Math.floor(runs / 2)]!
}

/** The demo with a scene of twelve sources beside each other on landscape. */
export function showOfTwelve(): Show {
  const show = structuredClone(demoShow)
  let last = 0
  const makeIdentifier = () => `twelve-${(last += 1)}`
  const kinds = ['camera', 'screen', 'guest', 'text', 'goal bar', 'picture'] as const
  const layers = Array.from({ length: 12 }, (_, index) => {
    const source = newSource(show, kinds[index % kinds.length]!, makeIdentifier)
    show.sources.push(source)
    const layer = newLayer(show, source, makeIdentifier)
    const [column, row] = [index % 4, Math.floor(index / 4)]
    const width = 440
    const height = Math.round((width * source.nativeHeight) / source.nativeWidth)
    Object.assign(layer.landscape, { x: 20 + column * 475, y: 20 + row * 350, width, height })
    return layer
  })
  show.scenes = [{ ...show.scenes[0]!, layers }]
  return show
}

export function matchingMilliseconds(): number {
  const show = showOfTwelve()
  return medianMilliseconds(() => matchProposals(show, show.scenes[0]!, 'vertical'))
}

/** A lit green backdrop with somebody before it, both with a camera's noise. */
function cameraPicture(width: number, height: number): Uint8ClampedArray {
  const pixels = new Uint8ClampedArray(width * height * 4)
  for (let at = 0; at < width * height; at += 1) {
    const [x, y] = [at % width, Math.floor(at / width)]
    const noise = ((at * 2654435761) >>> 28) - 8
    const isPerson =
      ((x - width / 2) / (width / 5)) ** 2 + ((y - height * 0.7) / (height / 2)) ** 2 < 1
    const light = 0.8 + (0.2 * x) / width
    const colour = isPerson ? [190, 140 + (y % 60), 120] : [58 * light, 181 * light, 74 * light]
    pixels.set([...colour.map((value) => value + noise), 255], at * 4)
  }
  return pixels
}

function keyingMilliseconds(width: number, height: number): number {
  const picture = cameraPicture(width, height)
  const pixels = new Uint8ClampedArray(picture.length)
  const keyer = makeKeyer(defaultChromaKey)
  return medianMilliseconds(() => {
    // Fresh each time, as a frame is; copying is part of what a frame costs.
    pixels.set(picture)
    keyer(pixels)
  })
}

/** How much of the time of one frame keying takes, for the whole of a 1920×1080 picture and as it is shown on screen. */
export function keyingFigures(): Figure[] {
  const sizes = { whole_1080p: [1920, 1080], '1080p_as_shown': [960, 540] } as const
  return Object.entries(sizes).flatMap(([name, [width, height]]) => {
    const milliseconds = keyingMilliseconds(width, height)
    const share = (framesPerSecond: number): number => (milliseconds * framesPerSecond) / 10
    return [
      { name: `keying_${name}`, value: milliseconds, unit: 'ms' },
      { name: `keying_${name}_of_a_frame_at_30`, value: share(30), unit: '%' },
      { name: `keying_${name}_of_a_frame_at_60`, value: share(60), unit: '%' },
    ]
  })
}
