import { usualDressing, usualTransition } from '../show'

type Part = Record<string, unknown>

const isPart = (value: unknown): value is Part =>
  typeof value === 'object' && value !== null && !Array.isArray(value)
const eachPart = (list: unknown, change: (part: Part) => Part): unknown =>
  Array.isArray(list) ? list.map((item) => (isPart(item) ? change(item) : item)) : list

/** Words had no type of their own in version 1: they filled their box on one line, on a band. */
function withType(source: Part): Part {
  const { appearance } = source
  if (!isPart(appearance) || appearance.type !== 'text') return source
  const characters = Math.max(1, String(appearance.text).length)
  const [width, height] = [Number(source.nativeWidth), Number(source.nativeHeight)]
  const sizePixels = Math.round(Math.min(height * 0.62, width / (0.52 * characters)))
  return {
    ...source,
    appearance: {
      ...appearance,
      font: 'Literata',
      weight: 600,
      sizePixels: Math.min(1000, Math.max(4, sizePixels || 4)),
      wrap: true,
      band: true,
    },
  }
}

const newInPlacement = { opacityPercent: 100, cornerRadius: null, dressed: true }

function fromVersion1(show: Part): Part {
  const placed = (placement: unknown) =>
    isPart(placement) ? { ...newInPlacement, ...placement } : placement
  return {
    ...show,
    transition: usualTransition,
    dressing: usualDressing,
    sources: eachPart(show.sources, (source) => ({
      focus: null,
      chromaKey: null,
      ...withType(source),
    })),
    scenes: eachPart(show.scenes, (scene) => ({
      role: null,
      verticalOf: null,
      ...scene,
      layers: eachPart(scene.layers, (layer) => ({
        ...layer,
        landscape: placed(layer.landscape),
        vertical: placed(layer.vertical),
      })),
    })),
    destinations: eachPart(show.destinations, (destination) => ({
      coverZones: [],
      ...destination,
    })),
  }
}

/** What brings a show from each version to the next; the first entry is for version 1. */
const steps = [fromVersion1] as const

/** A show as a file of an older version holds it, in the shape of the present one; not yet checked. */
export function upgradedShow(show: unknown, version: number): unknown {
  return steps
    .slice(Math.max(0, version - 1))
    .reduce<unknown>((shape, step) => (isPart(shape) ? step(shape) : shape), show)
}
