import { usableUpload } from '../network'
import { type Line, lineOf, type Show } from '../show'
import { listInWords } from '../words'
import type { FitResult } from './fitShow'
import { fitShow } from './fitShow'
import { scoreUnitsPerPoint, type Worth } from './problem'
import type { PlannedShow } from './wishes'
import { withPlan } from './showPlan'

/** One thing a person could change, and what it does to the show. */
export interface Way {
  id: string
  label: string
  note: string
  change: (show: PlannedShow) => PlannedShow
}

/** What a change would bring, found by planning again. */
export interface Gain {
  id: string
  label: string
  note: string
  /** Priority-weighted points of picture score more, in all. */
  points: number
  /** Priority-weighted destinations and recordings more that there is room for. */
  keptWeight: number
  aboveFloor: number
  encodesFewer: number
  freedKbps: number
}

const changeLine = (show: PlannedShow, change: (line: Line) => Line): PlannedShow => ({
  ...show,
  lines: show.lines.map((line) => (line.id === show.lineId ? change(line) : line)),
})

/** Less headroom, as far as the lowest of the counted samples would still have carried. */
function bearableHeadroomPercent(show: PlannedShow): number | null {
  const line = lineOf(show)
  const { measuredKbps, usableKbps, otherTrafficKbps } = usableUpload(line)
  const rates = line.samples
    .filter(({ medium }) => line.medium === null || medium === line.medium)
    .map(({ uploadKbps }) => uploadKbps)
  if (rates.length === 0) return null
  const bearableKbps = Math.min(...rates) - otherTrafficKbps
  if (bearableKbps <= usableKbps) return null
  return Math.max(0, Math.ceil(100 * (1 - (bearableKbps + otherTrafficKbps) / measuredKbps)))
}

/** Everything that could be tried for a show, in no order. */
export function waysToGain(show: PlannedShow): Way[] {
  const line = lineOf(show)
  const ways: Way[] = []
  const changeDestination =
    (
      id: string,
      change: (destination: Show['destinations'][number]) => Show['destinations'][number],
    ) =>
    (before: PlannedShow): PlannedShow => ({
      ...before,
      destinations: before.destinations.map((item) => (item.id === id ? change(item) : item)),
    })
  const sent = show.destinations.filter(({ on, connection }) => on && connection !== 'relay')

  const bearable = bearableHeadroomPercent(show)
  if (bearable !== null && bearable < line.headroomPercent)
    ways.push({
      id: 'headroom',
      label: `Headroom of ${bearable} %`,
      note: 'even the lowest sample would have carried it',
      change: (before) => changeLine(before, (item) => ({ ...item, headroomPercent: bearable })),
    })
  if (line.medium !== 'cable' && line.samples.some(({ medium }) => medium === 'cable'))
    ways.push({
      id: 'cable',
      label: 'Cable instead of Wi-Fi',
      note: 'counts the samples measured by cable only',
      change: (before) => changeLine(before, (item) => ({ ...item, medium: 'cable' })),
    })
  for (const traffic of line.otherTraffic.filter(({ on }) => on))
    ways.push({
      id: `traffic ${traffic.id}`,
      label: `${traffic.name} off the line`,
      note: 'other traffic during the show',
      change: (before) =>
        changeLine(before, (item) => ({
          ...item,
          otherTraffic: item.otherTraffic.map((other) =>
            other.id === traffic.id ? { ...other, on: false } : other,
          ),
        })),
    })
  for (const relay of show.destinations.filter(({ connection }) => connection === 'relay')) {
    const isReachable = (destination: Show['destinations'][number]): boolean =>
      destination.on &&
      destination.canvas === relay.canvas &&
      destination.connection !== 'relay' &&
      destination.connection !== 'hand-off' &&
      destination.renditions.length === 1
    const reachable = show.destinations.filter(isReachable)
    if (reachable.length < 2 || (relay.on && reachable.every(({ plan }) => !plan.routePinned)))
      continue
    ways.push({
      id: `relay ${relay.id}`,
      label: `Send through ${relay.name}`,
      note: `one send can feed ${listInWords(reachable.map(({ name }) => name))}`,
      change: (before) => ({
        ...before,
        destinations: before.destinations.map((item) => {
          if (item.id === relay.id) return { ...item, on: true }
          return isReachable(item) ? { ...item, plan: { ...item.plan, routePinned: false } } : item
        }),
      }),
    })
  }
  for (const destination of sent) {
    for (const pin of new Set(destination.renditions.flatMap(({ pins }) => pins)))
      ways.push({
        id: `unpin ${destination.id} ${pin}`,
        label: `Unpin the ${pin} for ${destination.name}`,
        note: 'leaves it to the planner',
        change: changeDestination(destination.id, (item) => ({
          ...item,
          renditions: item.renditions.map((rendition) => ({
            ...rendition,
            pins: rendition.pins.filter((other) => other !== pin),
          })),
        })),
      })
    if (sent.length > 1 && !destination.plan.mustKeep)
      ways.push({
        id: `without ${destination.id}`,
        label: `Without ${destination.name}`,
        note: 'what the others would get',
        change: changeDestination(destination.id, (item) => ({ ...item, on: false })),
      })
    const like = sent.find(
      (other) =>
        other !== destination &&
        other.canvas === destination.canvas &&
        other.renditions[0]?.audioBitrateKbps !== destination.renditions[0]?.audioBitrateKbps &&
        (other.renditions[0]?.audioBitrateKbps ?? Infinity) <=
          destination.rules.mostAudioBitrateKbps &&
        destination.rules.audioSampleRatesHz.includes(
          other.renditions[0]?.audioSampleRateHz ?? 48_000,
        ),
    )
    const sound = like?.renditions[0]
    if (like && sound && destination.connection !== 'hand-off')
      ways.push({
        id: `share ${destination.id}`,
        label: `Same sound for ${destination.name} as for ${like.name}`,
        note: 'so that the two could share an encode',
        change: changeDestination(destination.id, (item) => ({
          ...item,
          renditions: item.renditions.map((rendition) => ({
            ...rendition,
            audioCodec: sound.audioCodec,
            audioBitrateKbps: sound.audioBitrateKbps,
            audioChannels: sound.audioChannels,
            audioSampleRateHz: sound.audioSampleRateHz,
          })),
        })),
      })
  }
  if (show.canvasPair.framesPerSecond > 30)
    ways.push({
      id: 'frames',
      label: 'Run at 30 fps everywhere',
      note: 'fewer frames want fewer bits and less of the computer',
      change: (before) => ({
        ...before,
        canvasPair: { ...before.canvasPair, framesPerSecond: 30 },
      }),
    })
  for (const recording of show.recordings.filter(({ on }) => on)) {
    const model = sent.find(
      ({ canvas, connection }) => canvas === recording.canvas && connection !== 'hand-off',
    )
    const rendition = model?.renditions[0]
    if (model && rendition)
      ways.push({
        id: `record ${recording.id}`,
        label: `Record ${recording.name} at ${model.name}’s rate`,
        note: 'the file is what is sent there, so that one encode serves both',
        change: (before) => ({
          ...before,
          recordings: before.recordings.map((item) =>
            item.id === recording.id ? recordedLike(item, rendition) : item,
          ),
        }),
      })
    ways.push({
      id: `no ${recording.id}`,
      label: `Without recording ${recording.name}`,
      note: 'its encode would be free for a send',
      change: (before) => ({
        ...before,
        recordings: before.recordings.map((item) =>
          item.id === recording.id ? { ...item, on: false } : item,
        ),
      }),
    })
  }
  return ways
}

function recordedLike(
  recording: Show['recordings'][number],
  rendition: Show['recordings'][number]['rendition'],
): Show['recordings'][number] {
  const { width, height, framesPerSecond, codec, effort, videoBitrateKbps } = rendition
  return {
    ...recording,
    codecs: [...new Set([...recording.codecs, codec])],
    mostVideoBitrateKbps: Math.max(recording.mostVideoBitrateKbps, videoBitrateKbps),
    rendition: {
      ...recording.rendition,
      width,
      height,
      framesPerSecond,
      codec,
      effort,
      videoBitrateKbps,
      keyframeIntervalSeconds: rendition.keyframeIntervalSeconds,
      bFrames: rendition.bFrames,
      encoder: rendition.encoder,
      pins: ['size', 'frame rate', 'codec', 'video bitrate', 'effort', 'device'],
    },
  }
}

/** The effect of a change, the present plan against the one after it. */
export function gainOf(way: Way, before: FitResult, after: FitResult): Gain | null {
  if (!before.worth || !after.worth) return null
  const less = (of: (worth: Worth) => number): number =>
    of(before.worth as Worth) - of(after.worth as Worth)
  return {
    id: way.id,
    label: way.label,
    note: way.note,
    points: -less(({ scoreUnits }) => scoreUnits) / scoreUnitsPerPoint,
    keptWeight: less(({ leftOutWeight }) => leftOutWeight),
    aboveFloor: less(({ belowFloor }) => belowFloor),
    encodesFewer: less(({ encodes }) => encodes),
    freedKbps: before.uploadKbps - after.uploadKbps,
  }
}

/** The better the effect, the earlier: what there is room for, the floor, the score, encodes, upload. */
export const compareGains = (a: Gain, b: Gain): number =>
  b.keptWeight - a.keptWeight ||
  b.aboveFloor - a.aboveFloor ||
  b.points - a.points ||
  b.encodesFewer - a.encodesFewer ||
  b.freedKbps - a.freedKbps

/** Every way with its effect, the best first; each is planned for in turn, so that it can be stopped between them. */
export function* gainsOf(show: PlannedShow, present: FitResult): Generator<Gain[], Gain[]> {
  const gains: Gain[] = []
  // By the time a way is tried the planner has put its plan into the show, unless cells are set by hand.
  const tried = show.fit.automatic && present.parts !== null ? withPlan(show, present.parts) : show
  for (const way of waysToGain(tried)) {
    const gain = gainOf(way, present, fitShow(way.change(tried)))
    if (gain) gains.push(gain)
    gains.sort(compareGains)
    yield [...gains]
  }
  return gains
}
