import type { KeptPlan, Rendition, Show } from '../show'
import type { Solution } from './problem/problem'
import type { ShowProblem } from './problem/showProblem'

/** What a plan says of each destination and recording. */
export type PlanParts = KeptPlan['parts']

type Planned = Pick<Show, 'destinations' | 'recordings'>

/** The plan that a show holds at present. */
export function planOf({ destinations, recordings }: Planned): PlanParts {
  return [
    ...destinations.map(({ id, plan, relayId, renditions }) => ({
      id,
      leftOut: plan.leftOut,
      relayId,
      renditions,
    })),
    ...recordings.map(({ id, plan, rendition }) => ({
      id,
      leftOut: plan.leftOut,
      relayId: null,
      renditions: [rendition],
    })),
  ]
}

/** What a solution means for the show that its problem was made from. */
export function planFrom(show: Planned, made: ShowProblem, solution: Solution): PlanParts {
  const { problem, sources, relays, relayRenditions, deviceIds } = made
  const encoded = (rendition: Rendition, encode: number): Rendition => {
    const { shape, device, bitrateKbps } = solution.encodes[encode]!
    const { width, height, framesPerSecond, codec, effort } = problem.shapes[shape]!
    return {
      ...rendition,
      width,
      height,
      framesPerSecond,
      codec,
      effort,
      videoBitrateKbps: bitrateKbps,
      encoder: { ...rendition.encoder, deviceId: deviceIds[device] ?? null },
    }
  }
  const assigned = (kind: 'destination' | 'recording', id: string) =>
    sources.flatMap((source, index) =>
      source.kind === kind && source.id === id ? [{ source, ...solution.assignments[index]! }] : [],
    )
  const fedEncode = (relayId: string): number | null =>
    solution.assignments.find(({ relay }) => relay !== null && relays[relay]?.id === relayId)
      ?.encode ?? null
  const sentTo = (relayId: string, main: Rendition): Rendition => {
    const rendition = relayRenditions[relays.findIndex(({ id }) => id === relayId)] ?? main
    return { ...rendition, id: main.id, pins: main.pins }
  }
  return planOf(show).map((part, index) => {
    const isRecording = index >= show.destinations.length
    const own = assigned(isRecording ? 'recording' : 'destination', part.id)
    if (own.length === 0) {
      const encode = fedEncode(part.id)
      const [main, ...others] = part.renditions
      return encode === null || !main
        ? { ...part, leftOut: false }
        : {
            ...part,
            leftOut: false,
            renditions: [encoded(sentTo(part.id, main), encode), ...others],
          }
    }
    const leftOut = own.some(({ encode }) => encode === null)
    if (leftOut) return { ...part, leftOut }
    const relay = own[0]?.relay ?? null
    return {
      id: part.id,
      leftOut,
      relayId: relay === null ? null : (relays[relay]?.id ?? null),
      // What a ladder has beyond its rules is no part of the plan, and would go on being sent.
      renditions: part.renditions.slice(0, own.length).map((rendition, step) => {
        const mine = own.find(({ source }) => source.step === step)
        if (!mine || mine.encode === null) return rendition
        return encoded(
          { ...mine.source.rendition, id: rendition.id, pins: rendition.pins },
          mine.encode,
        )
      }),
    }
  })
}

/** What is off is in no plan: its cells are not of one before it is switched on and planned. */
const plannedOf = <Wish extends { leftOut: boolean; planned: boolean }>(
  { on, plan }: { on: boolean; plan: Wish },
  leftOut: boolean,
): Wish => ({ ...plan, leftOut, planned: on || plan.planned })

/** A show with a plan carried out; parts that the plan does not know stay as they are. */
export function withPlan<Document extends Planned>(show: Document, parts: PlanParts): Document {
  const byId = new Map(parts.map((part) => [part.id, part]))
  return {
    ...show,
    destinations: show.destinations.map((destination) => {
      const part = byId.get(destination.id)
      if (!part) return destination
      const { leftOut, relayId, renditions } = part
      return {
        ...destination,
        plan: plannedOf(destination, leftOut),
        relayId,
        renditions,
      }
    }),
    recordings: show.recordings.map((recording) => {
      const part = byId.get(recording.id)
      const [rendition] = part?.renditions ?? []
      if (!part || !rendition) return recording
      return { ...recording, plan: plannedOf(recording, part.leftOut), rendition }
    }),
  }
}
