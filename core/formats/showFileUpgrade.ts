import {
  newComputer,
  newConnectionDetails,
  newPlanDetails,
  newShowWords,
  newWordRules,
  usualDressing,
  usualFitSettings,
  usualTransition,
  usualWish,
} from '../show'

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

/** Version 2 had one line, no sound, and knew of a destination only what it accepts. */
function fromVersion2({ line, ...show }: Part): Part {
  const withRules = (rules: unknown) =>
    isPart(rules)
      ? {
          audioCodecs: ['aac', 'opus'],
          mostAudioChannels: 2,
          end: endsWith[String(rules.start)] ?? 'when the signal stops',
          key: { life: 'lasting', hours: null },
          chat: 'readable elsewhere',
          offersBackup: false,
          mostFed: 0,
          words: newWordRules,
          ...rules,
        }
      : rules
  const asLine = (before: Part): Part => ({
    id: 'line',
    lowPercentile: 10,
    medium: null,
    dataCap: null,
    localNetwork: { linkKbps: 1_000_000, devices: [] },
    ...before,
    samples: eachPart(before.samples, (sample) => ({ retransmits: null, ...sample })),
  })
  return {
    ...show,
    sounds: [],
    mixSampleRateHz: 48_000,
    lines: [isPart(line) ? asLine(line) : line],
    lineId: 'line',
    words: newShowWords,
    destinations: eachPart(show.destinations, (destination) => ({
      profile: null,
      ...newConnectionDetails(),
      ...destination,
      rules: withRules(destination.rules),
      renditions: eachPart(destination.renditions, (rendition) => ({
        // Version 2 took the codec from the protocol: WHIP carries Opus.
        audioCodec: destination.protocol === 'whip' ? 'opus' : 'aac',
        audioChannels: 2,
        ...rendition,
      })),
    })),
  }
}

/** Version 3 was set by hand throughout, knew nothing of the computer, and recorded nothing. */
function fromVersion3(show: Part): Part {
  return {
    ...show,
    destinations: eachPart(show.destinations, (destination) => ({
      plan: usualWish,
      ...destination,
      renditions: eachPart(destination.renditions, (rendition) => ({
        ...newPlanDetails(),
        ...rendition,
      })),
    })),
    recordings: [],
    computer: newComputer,
    fit: { ...usualFitSettings, automatic: false },
    keptPlans: [],
  }
}

/** How a show ended where its start was done in each way. */
const endsWith: Record<string, string> = {
  'pressed on its page': 'pressed on its page',
  'by its program': 'by its program',
}

/** What brings a show from each version to the next; the first entry is for version 1. */
const steps = [fromVersion1, fromVersion2, fromVersion3] as const

/** A show as a file of an older version holds it, in the shape of the present one; not yet checked. */
export function upgradedShow(show: unknown, version: number): unknown {
  return steps
    .slice(Math.max(0, version - 1))
    .reduce<unknown>((shape, step) => (isPart(shape) ? step(shape) : shape), show)
}
