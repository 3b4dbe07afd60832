import { budgetOf, encodesOf } from '../fit'
import { encodedPictureOf, pictureScore } from '../media'
import { type Recording, type Rendition, relayOf, type Show } from '../show'
import { codecNames, renditionInWords, wholeNumber } from '../words'
import { type PlanParts, withPlan } from './showPlan'

/** What one destination or recording gets in a plan. */
export interface PlanRow {
  id: string
  name: string
  words: string
  /** Of its main rendition, the mean over its viewers' screens; null where it is left out. */
  score: number | null
}

/** A plan in the few figures by which plans are compared. */
export interface PlanSummary {
  totalKbps: number
  spareKbps: number
  encodeCount: number
  rows: PlanRow[]
}

const renditionWords = (rendition: Rendition): string =>
  `${renditionInWords(rendition)} ${codecNames[rendition.codec]}, ${wholeNumber(rendition.videoBitrateKbps)} kb/s, ${rendition.effort}`

/** What each destination and recording that is on gets out of a plan, in their order. */
export function planRows(
  show: Pick<Show, 'destinations' | 'recordings' | 'pictureKind' | 'ownPicture' | 'computer'>,
  parts: PlanParts,
): PlanRow[] {
  const { destinations, recordings } = withPlan(show, parts)
  const rowFor = (
    { id, name, plan, viewers }: Pick<Recording, 'id' | 'name' | 'plan' | 'viewers'>,
    rendition: Rendition | undefined,
    route = '',
  ): PlanRow =>
    plan.leftOut || !rendition
      ? { id, name, words: 'left out', score: null }
      : {
          id,
          name,
          words: `${renditionWords(rendition)}${route}`,
          score: pictureScore(rendition, encodedPictureOf(show), viewers),
        }
  return [
    ...destinations
      .filter(({ on, connection }) => on && connection !== 'relay')
      .map((destination) => {
        const relay = relayOf(destinations, destination)
        const route = relay ? `, through ${relay.name}` : ''
        return rowFor(destination, (relay ?? destination).renditions[0], route)
      }),
    ...recordings.filter(({ on }) => on).map((recording) => rowFor(recording, recording.rendition)),
  ]
}

export function planSummary(show: Show, parts: PlanParts): PlanSummary {
  const planned = withPlan(show, parts)
  const { totalKbps, spareKbps } = budgetOf(planned)
  return {
    totalKbps,
    spareKbps,
    encodeCount: encodesOf(planned).length,
    rows: planRows(show, parts),
  }
}
