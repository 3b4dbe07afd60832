import { codecNames, kbpsInWords, listInWords, sizeInWords, wholeNumber } from '../words'
import { isLevelAbove, lowestLevel } from '../media'
import {
  type CanvasPair,
  type Destination,
  framesPerSecondChoices,
  isTaken,
  relayOf,
  type Rendition,
  type Rules,
  sentDirectly,
} from '../show'
import {
  checkAudioBitrate,
  checkAudioChannels,
  checkAudioCodec,
  checkAudioSampleRate,
} from './audioRules'
import type { Breach, Check } from './breach'
import { acceptsSize, nearestAcceptedSize, sameShape, sizesToOffer } from './sizes'

/** The largest frame rate that the rules accept and the show reaches, no higher than wanted; else the smallest accepted. */
function nearestAcceptedFrameRate(rules: Rules, wanted: number): Rendition['framesPerSecond'] {
  const accepted = acceptedFrameRates(rules)
  return (
    accepted.findLast((choice) => choice <= wanted) ?? (accepted[0] as Rendition['framesPerSecond'])
  )
}

/** The frame rates that the rules accept, lowest first. */
export function acceptedFrameRates(rules: Rules): Rendition['framesPerSecond'][] {
  const { framesPerSecond } = rules
  return framesPerSecond.type === 'one of'
    ? [...framesPerSecond.choices].sort((a, b) => a - b)
    : framesPerSecondChoices.filter((choice) => choice <= framesPerSecond.most)
}

const checkSize: Check = ({ rules, rendition, destination, canvasPair }) => {
  if (acceptsSize(rules, rendition)) return null
  const accepted =
    rules.sizes.type === 'up to'
      ? `at most ${sizeInWords(rules.sizes)}`
      : listInWords(rules.sizes.sizes.map(sizeInWords), 'or')
  const size = nearestAcceptedSize(rules, rendition, canvasPair[destination.canvas])
  return {
    rule: 'size',
    words: `${destination.name} takes ${accepted}, not ${sizeInWords(rendition)}.`,
    remedy: {
      words: `Set ${sizeInWords(size)}`,
      changes: { width: size.width, height: size.height },
    },
  }
}

const checkShape: Check = ({ rules, rendition, destination, canvasPair }) => {
  const canvas = canvasPair[destination.canvas]
  if (sameShape(rendition, canvas)) return null
  const size = nearestAcceptedSize(rules, rendition, canvas)
  return {
    rule: 'shape',
    words: `${sizeInWords(rendition)} for ${destination.name} does not have the shape of the ${destination.canvas} canvas, ${sizeInWords(canvas)}.`,
    remedy: sameShape(size, canvas)
      ? { words: `Set ${sizeInWords(size)}`, changes: { width: size.width, height: size.height } }
      : null,
  }
}

const checkFrameRate: Check = ({ rules, rendition, destination, canvasPair }) => {
  const accepted = acceptedFrameRates(rules)
  const isAccepted = accepted.includes(rendition.framesPerSecond)
  if (isAccepted && rendition.framesPerSecond <= canvasPair.framesPerSecond) return null
  const framesPerSecond = nearestAcceptedFrameRate(
    rules,
    Math.min(rendition.framesPerSecond, canvasPair.framesPerSecond),
  )
  const remedy = { words: `Set ${framesPerSecond} fps`, changes: { framesPerSecond } }
  if (isAccepted)
    return {
      rule: 'frame rate',
      words: `${destination.name} would get ${rendition.framesPerSecond} fps, but the canvases run at ${canvasPair.framesPerSecond}.`,
      remedy: framesPerSecond <= canvasPair.framesPerSecond ? remedy : null,
    }
  return {
    rule: 'frame rate',
    words: `${destination.name} takes ${listInWords(accepted.map(String), 'or')} fps, not ${rendition.framesPerSecond}.`,
    remedy,
  }
}

const checkCodec: Check = ({ rules, rendition, destination }) => {
  if (rules.codecs.includes(rendition.codec)) return null
  const [codec] = rules.codecs as [Rendition['codec']]
  return {
    rule: 'codec',
    words: `${destination.name} takes ${listInWords(
      rules.codecs.map((accepted) => codecNames[accepted]),
      'or',
    )}, not ${codecNames[rendition.codec]}.`,
    remedy: { words: `Set ${codecNames[codec]}`, changes: { codec } },
  }
}

const checkLevel: Check = ({ rules, rendition, destination, canvasPair }) => {
  const cap = rules.highestLevel[rendition.codec]
  const level = lowestLevel(rendition)
  const isWithin = (candidate: Rendition): boolean => {
    const reached = lowestLevel(candidate)
    return reached !== null && (cap === null || !isLevelAbove(reached, cap))
  }
  if (isWithin(rendition)) return null
  const name = codecNames[rendition.codec]
  const candidates = sizesToOffer(rules, canvasPair[destination.canvas])
    .filter(({ width }) => width <= rendition.width)
    .flatMap((size) =>
      acceptedFrameRates(rules)
        .filter((framesPerSecond) => framesPerSecond <= rendition.framesPerSecond)
        .reverse()
        .map((framesPerSecond) => ({ ...size, framesPerSecond })),
    )
  const changes = candidates.find((candidate) => isWithin({ ...rendition, ...candidate }))
  return {
    rule: 'level',
    words:
      level === null
        ? `No ${name} level admits ${sizeInWords(rendition)} at ${rendition.framesPerSecond} fps and ${kbpsInWords(rendition.videoBitrateKbps)}.`
        : `${destination.name} decodes ${name} up to level ${cap}; this is level ${level}.`,
    remedy: changes
      ? { words: `Set ${sizeInWords(changes)} at ${changes.framesPerSecond} fps`, changes }
      : null,
  }
}

const checkVideoBitrate: Check = ({ rules, rendition, destination }) => {
  const { leastVideoBitrateKbps: least, mostVideoBitrateKbps: most } = rules
  const given = rendition.videoBitrateKbps
  if (given > most)
    return {
      rule: 'video bitrate',
      words: `${destination.name} takes at most ${kbpsInWords(most)} of video, not ${wholeNumber(given)}.`,
      remedy: { words: `Set ${kbpsInWords(most)}`, changes: { videoBitrateKbps: most } },
    }
  if (least !== null && given < least)
    return {
      rule: 'video bitrate',
      words: `${destination.name} wants at least ${kbpsInWords(least)} of video, not ${wholeNumber(given)}.`,
      remedy: { words: `Set ${kbpsInWords(least)}`, changes: { videoBitrateKbps: least } },
    }
  return null
}

const checkKeyframeInterval: Check = ({ rules, rendition, destination }) => {
  const longest = rules.longestKeyframeIntervalSeconds
  if (rendition.keyframeIntervalSeconds <= longest) return null
  return {
    rule: 'keyframe interval',
    words: `${destination.name} wants a keyframe every ${longest} s or sooner, not every ${rendition.keyframeIntervalSeconds} s.`,
    remedy: { words: `Set ${longest} s`, changes: { keyframeIntervalSeconds: longest } },
  }
}

const checkBFrames: Check = ({ rules, rendition, destination }) => {
  const most = rules.mostBFrames
  if (rendition.bFrames <= most) return null
  return {
    rule: 'B-frames',
    words: `${destination.name} takes at most ${most} B-frames, not ${rendition.bFrames}.`,
    remedy: { words: `Set ${most} B-frames`, changes: { bFrames: most } },
  }
}

const pictureChecks: readonly Check[] = [
  checkSize,
  checkShape,
  checkFrameRate,
  checkCodec,
  checkLevel,
  checkVideoBitrate,
]
const timingAndSoundChecks: readonly Check[] = [
  checkKeyframeInterval,
  checkBFrames,
  checkAudioCodec,
  checkAudioBitrate,
  checkAudioChannels,
  checkAudioSampleRate,
]

const found = (
  checks: readonly Check[],
  destination: Destination,
  canvasPair: CanvasPair,
): Breach[] =>
  destination.renditions.flatMap((rendition) =>
    checks.flatMap((check) => {
      const finding = check({ rules: destination.rules, rendition, destination, canvasPair })
      return finding
        ? [{ destinationId: destination.id, renditionId: rendition.id, ...finding }]
        : []
    }),
  )

/** What of keyframes, B-frames and sound a destination's rules do not accept: what a plan does not choose. */
export const timingAndSoundBreaches = (
  destination: Destination,
  canvasPair: CanvasPair,
): Breach[] => found(timingAndSoundChecks, destination, canvasPair)

/** Every rule of a destination that its renditions do not keep, in the order in which they are sent. */
export function breachesOf(destination: Destination, canvasPair: CanvasPair): Breach[] {
  const { rules, renditions } = destination
  const breaches = found([...pictureChecks, ...timingAndSoundChecks], destination, canvasPair)
  const surplus = renditions[rules.mostRenditions]
  if (!surplus) return breaches
  const accepted =
    rules.mostRenditions === 1 ? 'one rendition' : `${rules.mostRenditions} renditions`
  return [
    ...breaches,
    {
      destinationId: destination.id,
      renditionId: surplus.id,
      rule: 'number of renditions',
      words: `${destination.name} takes ${accepted}, not ${renditions.length}.`,
      remedy: null,
    },
  ]
}

/**
 * The rules of a destination that a relay feeds, held against what the relay gets; what would mend
 * them is a change to the relay's own rendition.
 */
function breachesThroughRelay(
  fed: Destination,
  relay: Destination,
  canvasPair: CanvasPair,
): Breach[] {
  const { protocol, renditions, canvas } = relay
  const name = `${fed.name}, through ${relay.name},`
  return breachesOf(
    { ...fed, name, protocol, canvas, renditions: renditions.slice(0, 1) },
    canvasPair,
  ).map((breach) => ({ ...breach, destinationId: relay.id }))
}

/** The breaches of everything that is sent. */
export function allBreaches(show: {
  destinations: readonly Destination[]
  canvasPair: CanvasPair
}): Breach[] {
  const direct = new Set(sentDirectly(show.destinations))
  return show.destinations.filter(isTaken).flatMap((destination) => {
    // A relay that feeds nobody is sent nothing.
    if (destination.relayId === null)
      return direct.has(destination) ? breachesOf(destination, show.canvasPair) : []
    const relay = relayOf(show.destinations, destination)
    return relay ? breachesThroughRelay(destination, relay, show.canvasPair) : []
  })
}
