import { budgetOf, encodesOf } from '../fit'
import { pictureScore } from '../media'
import { type Rendition, relayOf, type Show } from '../show'
import { codecNames, renditionInWords, wholeNumber } from '../words'
import { type PlanParts, withPlan } from './showPlan'

/** A plan in the few figures by which plans are compared. */
export interface PlanSummary {
  totalKbps: number
  spareKbps: number
  encodeCount: number
  /** For each destination and recording that is on, in their order. */
  rows: { id: string; name: string; words: string; score: number | null }[]
}

const renditionWords = (rendition: Rendition): string =>
  `${renditionInWords(rendition)} ${codecNames[rendition.codec]}, ${wholeNumber(rendition.videoBitrateKbps)} kb/s, ${rendition.effort}`

export function planSummary(show: Show, parts: PlanParts): PlanSummary {
  const planned = withPlan(show, parts)
  const { totalKbps, spareKbps } = budgetOf(planned)
  const leftOut = { words: 'left out', score: null }
  return {
    totalKbps,
    spareKbps,
    encodeCount: encodesOf(planned).length,
    rows: [
      ...planned.destinations
        .filter(({ on, connection }) => on && connection !== 'relay')
        .map((destination) => {
          const { id, name, plan, viewers } = destination
          const relay = relayOf(planned.destinations, destination)
          const rendition = (relay ?? destination).renditions[0]
          if (plan.leftOut || !rendition) return { id, name, ...leftOut }
          const score = pictureScore(rendition, show.pictureKind, viewers[0] ?? 'desk')
          const route = relay ? `, through ${relay.name}` : ''
          return { id, name, words: `${renditionWords(rendition)}${route}`, score }
        }),
      ...planned.recordings
        .filter(({ on }) => on)
        .map(({ id, name, plan, viewers, rendition }) =>
          plan.leftOut
            ? { id, name, ...leftOut }
            : {
                id,
                name,
                words: renditionWords(rendition),
                score: pictureScore(rendition, show.pictureKind, viewers[0] ?? 'desk'),
              },
        ),
    ],
  }
}
