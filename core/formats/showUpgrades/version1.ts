import { eachPart, isPart, type Part } from './parts'

const firstDressing = {
  name: 'Lichen',
  frame: { widthPixels: 0, colour: '#dce7cf' },
  cornerRadiusPixels: 0,
  label: { place: 'no label', textColour: '#fffdf6', bandColour: '#0e1a15', sizePixels: 30 },
  goalBar: {
    textColour: '#1f2a23',
    bandColour: '#fffdf6',
    trackColour: '#dce7cf',
    filledColour: '#2f5d3a',
  },
  alerts: { textColour: '#fffdf6', bandColour: '#5f2d55' },
}

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

/** Version 1 knew of no dressing, transition, focus, role or cover zone; what it lacked is frozen here. */
export function fromVersion1(show: Part): Part {
  const placed = (placement: unknown) =>
    isPart(placement) ? { ...newInPlacement, ...placement } : placement
  return {
    ...show,
    transition: { kind: 'fade', milliseconds: 300 },
    dressing: firstDressing,
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
