import { acceptedFrameRates, isCarried, sizesToOffer, usableUploadOf } from '../../fit'
import { encodedPictureOf, pictureScore } from '../../media'
import { countedSamples, knowsHowLow } from '../../network'
import { type Codec, lineOf, type Pin, type Rendition, type Show } from '../../show'
import {
  recordedLike,
  withDestinationOff,
  withLine,
  withMedium,
  withoutPin,
  withoutTraffic,
  withPlanOf,
  withRecording,
  withRecordingOff,
  withRenditionsOf,
} from '../../show/edits'
import { codecNames, listInWords, sizeInWords } from '../../words'
import type { PlannedShow } from '../problem/renditionRequests'

/** One thing a person could change, and what it does to the show. */
export interface Improvement {
  id: string
  label: string
  note: string
  /** The destination that it does without; what that one had is not counted as lost. */
  drops?: string
  /** The headroom that it leaves, where less of it is what it is about. */
  headroomPercent?: number
  change: (show: PlannedShow) => PlannedShow
}

type Destination = Show['destinations'][number]
type Recording = Show['recordings'][number]
type Change = Improvement['change']

/** Changes the main rendition of a destination and pins what was changed. */
const pinned =
  ({ id }: Destination, changes: Partial<Rendition>, pin: Pin): Change =>
  (show) =>
    withRenditionsOf(show, id, (rendition, step) =>
      step === 0
        ? { ...rendition, ...changes, pins: [...new Set([...rendition.pins, pin])] }
        : rendition,
    )

/** Everything that could be tried for a show, in no order. */
export function possibleImprovements(show: PlannedShow): Improvement[] {
  const sent = show.destinations.filter(({ on, connection }) => on && connection !== 'relay')
  const chosenFor = sent.filter(
    ({ connection, plan }) => connection !== 'hand-off' && !plan.leftOut,
  )
  return [
    ...lineImprovements(show),
    ...relayImprovements(show),
    ...sent.flatMap((destination) => [
      ...unpinImprovements(destination),
      ...sharingImprovements(destination, sent),
    ]),
    ...chosenFor.flatMap((destination) => [
      ...smallerImprovements(destination, show),
      ...deviceImprovements(destination, show),
    ]),
    ...leaveOutWays(chosenFor, show),
    ...codecImprovements(chosenFor, show),
    ...frameRateWays(show),
    ...show.recordings
      .filter(({ on }) => on)
      .flatMap((recording) => recordingImprovements(recording, sent)),
  ]
}

/**
 * Less headroom, as far as the lowest of the counted samples would still have carried; null with too
 * few of them to say so.
 */
function bearableHeadroomPercent(show: PlannedShow): number | null {
  const line = lineOf(show)
  const { measuredKbps, usableKbps, otherTrafficKbps } = usableUploadOf(show)
  const rates = countedSamples(line).map(({ uploadKbps }) => uploadKbps)
  if (!knowsHowLow(line)) return null
  const bearableKbps = Math.min(...rates) - otherTrafficKbps
  if (bearableKbps <= usableKbps) return null
  return Math.max(0, Math.ceil(100 * (1 - (bearableKbps + otherTrafficKbps) / measuredKbps)))
}

function lineImprovements(show: PlannedShow): Improvement[] {
  const line = lineOf(show)
  const improvements: Improvement[] = []
  const bearable = bearableHeadroomPercent(show)
  if (bearable !== null && bearable < line.headroomPercent)
    improvements.push({
      id: 'headroom',
      label: `Headroom of ${bearable} %`,
      note: `even the lowest of ${countedSamples(line).length} measurements would have carried it`,
      headroomPercent: bearable,
      change: (before) => withLine(before, (item) => ({ ...item, headroomPercent: bearable })),
    })
  if (line.medium !== 'cable' && line.samples.some(({ medium }) => medium === 'cable'))
    improvements.push({
      id: 'cable',
      label: 'Cable instead of Wi-Fi',
      note: 'counts the samples measured by cable only',
      change: (before) => withMedium(before, 'cable'),
    })
  for (const traffic of line.otherTraffic.filter(({ on }) => on))
    improvements.push({
      id: `traffic ${traffic.id}`,
      label: `${traffic.name} off the line`,
      note: 'other traffic during the show',
      change: (before) => withoutTraffic(before, traffic.id),
    })
  return improvements
}

/** Relays that are off, or that those they could feed are kept from. */
function relayImprovements(show: PlannedShow): Improvement[] {
  return show.destinations
    .filter(({ connection }) => connection === 'relay')
    .flatMap((relay): Improvement[] => {
      const isReachable = (destination: Destination): boolean =>
        destination.on &&
        destination.canvas === relay.canvas &&
        destination.connection !== 'relay' &&
        destination.connection !== 'hand-off' &&
        destination.renditions.length === 1
      const reachable = show.destinations.filter(isReachable)
      if (reachable.length < 2 || (relay.on && reachable.every(({ plan }) => !plan.routePinned)))
        return []
      return [
        {
          id: `relay ${relay.id}`,
          label: `Send through ${relay.name}`,
          note: `one send can feed ${listInWords(reachable.map(({ name }) => name))}`,
          change: (before) => ({
            ...before,
            destinations: before.destinations.map((item) => {
              if (item.id === relay.id) return { ...item, on: true }
              return isReachable(item)
                ? { ...item, plan: { ...item.plan, routePinned: false } }
                : item
            }),
          }),
        },
      ]
    })
}

const unpinImprovements = ({ id, name, renditions }: Destination): Improvement[] =>
  [...new Set(renditions.flatMap(({ pins }) => pins))].map((pin) => ({
    id: `unpin ${id} ${pin}`,
    label: `Unpin the ${pin} for ${name}`,
    note: 'leaves it to the planner',
    change: (before) => withoutPin(before, id, pin),
  }))

/** Two that would be poor are one too many. */
const poorAtOnce = 2
/** From here on down a picture is rough or broken. */
const poorBelow = 65
const maxDropped = 2

/**
 * Where two or more would be poor: without the least wanted of those that need not be kept, those that
 * are worst first. What the dropped one had itself is not counted as a loss.
 */
function leaveOutWays(sent: readonly Destination[], show: PlannedShow): Improvement[] {
  const scoreOf = ({ renditions: [main], viewers }: Destination): number =>
    main ? pictureScore(main, encodedPictureOf(show), viewers) : 0
  const isPoor = (destination: Destination): boolean => scoreOf(destination) < poorBelow
  if (sent.filter(isPoor).length < poorAtOnce) return []
  return sent
    .filter(({ plan }) => !plan.mustKeep)
    .sort((a, b) => a.plan.priority - b.plan.priority || scoreOf(a) - scoreOf(b))
    .slice(0, maxDropped)
    .map(({ id, name }) => ({
      id: `without ${id}`,
      label: `Without ${name}`,
      note: 'the least wanted, where several would be poor',
      drops: id,
      change: (before) => withDestinationOff(before, id),
    }))
}

const pictureOf = ({
  width,
  height,
  framesPerSecond,
  codec,
  videoBitrateKbps,
}: Rendition): string => [width, height, framesPerSecond, codec, videoBitrateKbps].join(' ')

/**
 * The sound of another, where that is all that keeps the two from sharing an encode: of one that has the
 * same picture, which is encoded twice now, else of any on its canvas.
 */
function sharingImprovements(
  destination: Destination,
  sent: readonly Destination[],
): Improvement[] {
  const { id, name, canvas, rules, connection, renditions } = destination
  const own = renditions[0]
  const takesSoundOf = (other: Destination): boolean => {
    const theirs = other.renditions[0]
    return (
      other !== destination &&
      other.canvas === canvas &&
      theirs?.audioBitrateKbps !== own?.audioBitrateKbps &&
      (theirs?.audioBitrateKbps ?? Infinity) <= rules.mostAudioBitrateKbps &&
      rules.audioSampleRatesHz.includes(theirs?.audioSampleRateHz ?? 48_000)
    )
  }
  const others = sent.filter(takesSoundOf)
  const like =
    others.find(
      ({ renditions: [theirs] }) => own && theirs && pictureOf(theirs) === pictureOf(own),
    ) ?? others[0]
  const sound = like?.renditions[0]
  if (!like || !sound || connection === 'hand-off') return []
  const { audioCodec, audioBitrateKbps, audioChannels, audioSampleRateHz } = sound
  return [
    {
      id: `share ${id}`,
      label: `Same sound for ${name} as for ${like.name}`,
      note: 'so that the two could share an encode',
      change: (before) =>
        withRenditionsOf(before, id, (rendition) => ({
          ...rendition,
          ...{ audioCodec, audioBitrateKbps, audioChannels, audioSampleRateHz },
        })),
    },
  ]
}

/** The next lower frame rate and the next smaller size of what is sent. */
function smallerImprovements(destination: Destination, show: PlannedShow): Improvement[] {
  const { id, name, rules, canvas, renditions } = destination
  const [main] = renditions
  if (!main) return []
  const improvements: Improvement[] = []
  const canvasRate = show.canvasPair.framesPerSecond
  const rate = acceptedFrameRates(rules).findLast(
    (lower) => lower < main.framesPerSecond && canvasRate % lower === 0,
  )
  if (rate !== undefined)
    improvements.push({
      id: `rate ${id}`,
      label: `${rate} fps for ${name}`,
      note: 'fewer frames, each with more bits',
      change: pinned(destination, { framesPerSecond: rate }, 'frame rate'),
    })
  const pixels = main.width * main.height
  const size = sizesToOffer(rules, show.canvasPair[canvas])
    .filter(({ width, height }) => width * height < pixels)
    .sort((a, b) => b.width * b.height - a.width * a.height)[0]
  if (size)
    improvements.push({
      id: `size ${id}`,
      label: `${sizeInWords(size)} for ${name}`,
      note: 'fewer pixels, each with more bits',
      change: pinned(destination, { width: size.width, height: size.height }, 'size'),
    })
  return improvements
}

/** Newer codecs where they are accepted, some device can make them and they are not trusted yet: everywhere, or for one. */
function codecImprovements(
  sent: readonly Destination[],
  { computer, fit }: PlannedShow,
): Improvement[] {
  const made = new Set(
    computer.devices.flatMap(({ throughputs }) => throughputs.map(({ codec }) => codec)),
  )
  const newerFor = (destination: Destination): Codec[] => {
    const { rules, plan, renditions } = destination
    return (plan.newerCodecs ?? fit.newerCodecs) ||
      renditions.every(({ pins }) => pins.includes('codec'))
      ? []
      : rules.codecs.filter(
          (codec) => codec !== 'h264' && made.has(codec) && isCarried(computer, destination, codec),
        )
  }
  const able = sent.filter((destination) => newerFor(destination).length > 0)
  const named = (codecs: readonly Codec[]): string =>
    listInWords([...new Set(codecs)].map((codec) => codecNames[codec]))
  const everywhere: Improvement[] =
    able.length > 1 && !fit.newerCodecs
      ? [
          {
            id: 'codecs',
            label: 'Newer codecs where they are accepted',
            note: `${named(able.flatMap(newerFor))} for ${listInWords(able.map(({ name }) => name))}; not every viewer’s device shows them`,
            change: (before) => ({ ...before, fit: { ...before.fit, newerCodecs: true } }),
          },
        ]
      : []
  return [
    ...everywhere,
    ...able.map((destination): Improvement => ({
      id: `codec ${destination.id}`,
      label: `${named(newerFor(destination))} for ${destination.name}`,
      note: 'accepted there; not every viewer’s device shows it',
      change: (before) => withPlanOf(before, destination.id, { newerCodecs: true }),
    })),
  ]
}

function deviceImprovements(destination: Destination, { computer }: PlannedShow): Improvement[] {
  const encoder = destination.renditions[0]?.encoder
  if (!encoder || encoder.deviceId === null) return []
  return computer.devices
    .filter(({ id }) => id !== encoder.deviceId)
    .map(({ id, name }) => ({
      id: `device ${destination.id} ${id}`,
      label: `Encode ${destination.name} on ${name}`,
      note: 'leaves room where it is encoded now',
      change: pinned(destination, { encoder: { ...encoder, deviceId: id } }, 'device'),
    }))
}

const frameRateWays = ({ canvasPair }: PlannedShow): Improvement[] =>
  canvasPair.framesPerSecond > 30
    ? [
        {
          id: 'frames',
          label: 'Run at 30 fps everywhere',
          note: 'fewer frames want fewer bits and less of the computer',
          change: (before) => ({
            ...before,
            canvasPair: { ...before.canvasPair, framesPerSecond: 30 },
          }),
        },
      ]
    : []

function recordingImprovements(
  { id, name, canvas }: Recording,
  sent: readonly Destination[],
): Improvement[] {
  const model = sent.find(
    (destination) => destination.canvas === canvas && destination.connection !== 'hand-off',
  )
  const rendition = model?.renditions[0]
  const likeSend: Improvement[] =
    model && rendition
      ? [
          {
            id: `record ${id}`,
            label: `Record ${name} at ${model.name}’s rate`,
            note: 'the file is what is sent there, so that one encode serves both',
            change: (before) => withRecording(before, id, (item) => recordedLike(item, rendition)),
          },
        ]
      : []
  return [
    ...likeSend,
    {
      id: `no ${id}`,
      label: `Without recording ${name}`,
      note: 'its encode would be free for a send',
      change: (before) => withRecordingOff(before, id),
    },
  ]
}
