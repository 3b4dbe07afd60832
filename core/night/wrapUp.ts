import { encodedPictureOf, scoreWithFramesLost } from '../media'
import { type Destination, type Show } from '../show'
import { durationInWords, mbpsInWords, timesInWords } from '../words'
import type { NightOrder } from './nightOrder'
import type { Happening } from './nightEvents'
import type { Mark, NightState } from './nightState'
import { frozenPicture } from './stages'
import type { SendStage } from './task'

export interface WrappedSend {
  destinationId: string
  name: string
  /** When each stage was reached, ISO 8601; null where it was not said. */
  reachedAt: Record<Exclude<SendStage, 'key'>, string | null>
  /** How much later than planned it was live; null where it was not. */
  liveLateSeconds: number | null
  /** From live to ended; null where either is not known. */
  liveSeconds: number | null
  troubles: { at: string; words: string }[]
  /** What went out of it from here, one entry for each time it was ended; empty where another program sent it. */
  sent: Extract<Happening, { kind: 'sent' }>[]
  /** How often and for how long the picture stood still for viewers; null where that is not known. */
  viewed: { freezes: number; frozenSeconds: number } | null
  /** The picture score as planned, and of what went out from here, over its viewers' screens; null where that is not known. */
  score: { planned: number; happened: number } | null
  /** Whether it was ended here while its page went on. */
  wasFrozen: boolean
}

export interface WrapUp {
  begunAt: string | null
  /** When the show began and ended, as it was ticked. */
  onAirAt: string | null
  endedAt: string | null
  startLateSeconds: number | null
  /** Against the planned length; null where it is not known. */
  ranLongSeconds: number | null
  sends: WrappedSend[]
  marks: readonly Mark[]
  /** What the line carried of all that was sent from here, and where it was short. */
  line: Extract<Happening, { kind: 'carried' }>[]
  /** What the encodes of each canvas took of the processor. */
  encoded: Extract<Happening, { kind: 'encoded' }>[]
  /** What was recorded from here. */
  recordings: Extract<Happening, { kind: 'recorded' }>[]
  notDone: string[]
  /** Done although something else was said to come first. */
  outOfOrder: string[]
  /** What to do otherwise next time, in sentences. */
  toChange: string[]
}

const secondsBetween = (from: string, until: string): number =>
  (Date.parse(until) - Date.parse(from)) / 1000

/** The tick at which a stage was reached: the first that reaches it. */
function reachedAt(
  destinationId: string,
  stage: SendStage,
  { tasks }: NightOrder,
  state: NightState,
): string | null {
  const times = tasks
    .filter((task) => task.destinationId === destinationId && task.stage === stage)
    .flatMap(({ id }) => state.ticks.get(id)?.at ?? [])
    .sort()
  return (stage === 'ended' ? times.at(-1) : times[0]) ?? null
}

function viewedOf(sent: WrappedSend['sent']): WrappedSend['viewed'] {
  const seen = sent.flatMap(({ isBackup, viewed }) => (viewed && !isBackup ? [viewed] : []))
  if (seen.length === 0) return null
  return {
    freezes: seen.reduce((sum, { freezes }) => sum + freezes, 0),
    frozenSeconds: seen.reduce((sum, { frozenSeconds }) => sum + frozenSeconds, 0),
  }
}

/** How its viewers had the picture, by what went out of its main rendition; null where nothing did from here. */
function scoreOf(
  show: Show,
  { renditions: [main], viewers }: Destination,
  sent: WrappedSend['sent'],
): WrappedSend['score'] {
  if (!main) return null
  const plannedKbps = main.videoBitrateKbps + main.audioBitrateKbps
  const ofMain = sent.filter((each) => !each.isBackup && each.plannedKbps === plannedKbps)
  if (ofMain.some(({ isLossUnknown }) => isLossUnknown)) return null
  const sum = (value: (each: (typeof sent)[number]) => number): number =>
    ofMain.reduce((total, each) => total + value(each), 0)
  const frames = sum(({ sentFrames, lostFrames }) => sentFrames + lostFrames)
  const seconds = sum((each) => each.seconds)
  if (frames === 0 || seconds === 0) return null
  const delivered = sum(({ sentFrames }) => sentFrames) / frames
  const meanKbps = sum((each) => each.meanKbps * each.seconds) / seconds
  // What fell out with the frames is no reason for those that came to be worse.
  const rateShare = Math.min(1, meanKbps / (plannedKbps * Math.max(delivered, 0.01)))
  const over = (share: number, videoBitrateKbps: number): number =>
    viewers.reduce(
      (total, screen) =>
        total +
        scoreWithFramesLost({ ...main, videoBitrateKbps }, share, encodedPictureOf(show), screen),
      0,
    ) / viewers.length
  return {
    planned: over(1, main.videoBitrateKbps),
    happened: over(delivered, main.videoBitrateKbps * rateShare),
  }
}

/** Whether its page was ended after the send to it was. */
function endedWrongly(destinationId: string, { ticks }: NightState): boolean {
  const end = ticks.get(`end-${destinationId}`)
  const stop = ticks.get(`stop-${destinationId}`)
  return Boolean(end && stop && end.at > stop.at)
}

function wrappedSends(
  show: Show,
  order: NightOrder,
  state: NightState,
  startsAt: Date | null,
): WrappedSend[] {
  return show.destinations
    .filter(({ on }) => on)
    .map((destination) => {
      const { id, name } = destination
      const at = (stage: SendStage): string | null => reachedAt(id, stage, order, state)
      const times = {
        sending: at('sending'),
        arrived: at('arrived'),
        live: at('live'),
        ended: at('ended'),
      }
      const planned = order.tasks.find(
        (task) => task.destinationId === id && task.stage === 'live',
      )?.atSeconds
      const sent = state.events.flatMap(({ happening }) =>
        happening.kind === 'sent' && happening.destinationId === id ? [happening] : [],
      )
      return {
        destinationId: id,
        name,
        reachedAt: times,
        liveLateSeconds:
          times.live && startsAt && planned !== undefined
            ? (Date.parse(times.live) - startsAt.getTime()) / 1000 - planned
            : null,
        liveSeconds: times.live && times.ended ? secondsBetween(times.live, times.ended) : null,
        troubles: state.events.flatMap(({ at: when, happening }) =>
          happening.kind === 'trouble' && happening.destinationId === id
            ? [{ at: when, words: happening.trouble }]
            : [],
        ),
        sent,
        viewed: viewedOf(sent),
        score: scoreOf(show, destination, sent),
        wasFrozen:
          endedWrongly(id, state) ||
          frozenPicture(id, order, ({ id: taskId }) => state.ticks.has(taskId)) !== null,
      }
    })
}

/**
 * What was planned against what happened, and what to do otherwise. `startsAt` is when it was to begin,
 * where that is known.
 */
export function wrapUp(
  show: Show,
  order: NightOrder,
  state: NightState,
  known: ReadonlySet<string>,
  startsAt: Date | null,
): WrapUp {
  const onAirAt = state.ticks.get('on-air')?.at ?? null
  const endedAt = state.ticks.get('last-scene')?.at ?? null
  const sends = wrappedSends(show, order, state, startsAt)
  const done = ({ id }: { id: string }): boolean => state.ticks.has(id) || known.has(id)
  const notDone = order.tasks.filter((task) => !done(task)).map(({ title }) => title)
  const outOfOrder = order.tasks
    .filter(({ id }) => state.ticks.get(id)?.knowingly)
    .map(({ title }) => title)
  const happened = <Kind extends Happening['kind']>(kind: Kind) =>
    state.events.flatMap(({ happening }) =>
      happening.kind === kind ? [happening as Extract<Happening, { kind: Kind }>] : [],
    )
  const startLateSeconds =
    onAirAt && startsAt ? (Date.parse(onAirAt) - startsAt.getTime()) / 1000 : null
  return {
    begunAt: state.begunAt,
    onAirAt,
    endedAt,
    startLateSeconds,
    ranLongSeconds:
      onAirAt && endedAt ? secondsBetween(onAirAt, endedAt) - show.durationMinutes * 60 : null,
    sends,
    marks: state.marks,
    line: happened('carried'),
    encoded: happened('encoded'),
    recordings: happened('recorded'),
    notDone,
    outOfOrder,
    toChange: [
      ...toChange(sends, startLateSeconds, show),
      ...shortLine(happened('carried')),
      ...shortRecordings(state, show),
    ],
  }
}

function shortLine(carried: WrapUp['line']): string[] {
  const shortages = carried.flatMap((each) => each.shortages)
  if (shortages.length === 0) return []
  const least = Math.min(...shortages.map(({ carriedKbps }) => carriedKbps))
  const seconds = shortages.reduce((sum, each) => sum + each.seconds, 0)
  return [
    `The line was short for ${durationInWords(seconds)} in all and carried ${mbpsInWords(least)} at the least: take that into the measurements of the next show.`,
  ]
}

/** Recordings that can't be read, or of which the longest is much shorter than the show was. */
function shortRecordings(state: NightState, show: Show): string[] {
  const onAirAt = state.ticks.get('on-air')?.at
  const endedAt = state.ticks.get('last-scene')?.at
  const ranSeconds =
    onAirAt && endedAt ? secondsBetween(onAirAt, endedAt) : show.durationMinutes * 60
  const byName = new Map<string, number>()
  for (const { happening } of state.events)
    if (happening.kind === 'recorded')
      byName.set(happening.name, Math.max(byName.get(happening.name) ?? 0, happening.seconds ?? 0))
  return [...byName].flatMap(([name, seconds]) =>
    seconds < ranSeconds - lateLimitSeconds
      ? [
          `${name} holds ${durationInWords(seconds)} of ${durationInWords(ranSeconds)}: begin it before the start, and see that the disk has room.`,
        ]
      : [],
  )
}

const lateLimitSeconds = 60
/** More than this share of frames lost is noticed; common practice, no published source: over 1 %. */
const noticedShare = 0.01

function toChange(
  sends: readonly WrappedSend[],
  startLateSeconds: number | null,
  show: Show,
): string[] {
  const found: string[] = []
  if (startLateSeconds !== null && startLateSeconds > lateLimitSeconds)
    found.push(
      `The show began ${Math.round(startLateSeconds / 60)} min late: a margin of ${Math.ceil(show.runSheet.marginMinutes + startLateSeconds / 60)} min instead of ${show.runSheet.marginMinutes} would have held.`,
    )
  for (const { name, wasFrozen, troubles, sent, reachedAt: at } of sends) {
    if (wasFrozen)
      found.push(`${name} was stopped here before it was ended on its page: end it there first.`)
    if (troubles.length > 0)
      found.push(
        `${name} was in trouble (${[...new Set(troubles.map(({ words }) => words))].join(', ')}): rehearse it with a longer buffer or a lower bitrate.`,
      )
    for (const { sentFrames, lostFrames, viewed } of sent) {
      if (lostFrames > noticedShare * (sentFrames + lostFrames))
        found.push(
          `${name} lost ${((100 * lostFrames) / (sentFrames + lostFrames)).toFixed(1)} % of its frames, which viewers notice: rehearse it with more headroom or a lower bitrate.`,
        )
      if (viewed && viewed.freezes > 0)
        found.push(
          `${name} stood still for its viewers ${timesInWords(viewed.freezes)}, ${durationInWords(viewed.frozenSeconds)} in all.`,
        )
    }
    if (at.sending && !at.live)
      found.push(`Nobody said that ${name} was live: look at it as a viewer does.`)
  }
  return found
}
