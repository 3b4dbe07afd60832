import { matchProposals } from '@green-mantle/core/matching'
import { keyPicture } from '@green-mantle/core/picture'
import { newLayer, newSource, type Show, usualChromaKey } from '@green-mantle/core/show'
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

/** How much of the time of one frame keying takes, for a 1920×1080 picture of many colours. */
export function keyingFigures(): Figure[] {
  const pixels = new Uint8ClampedArray(1920 * 1080 * 4)
  for (let at = 0; at < pixels.length; at += 1) pixels[at] = (at * 2654435761) >>> 24
  const milliseconds = medianMilliseconds(() => keyPicture(pixels, usualChromaKey))
  return [
    { name: 'keying_1080p', value: milliseconds, unit: 'ms' },
    { name: 'keying_1080p_of_a_frame_at_30', value: (100 * milliseconds * 30) / 1000, unit: '%' },
    { name: 'keying_1080p_of_a_frame_at_60', value: (100 * milliseconds * 60) / 1000, unit: '%' },
  ]
}
