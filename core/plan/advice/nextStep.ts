import { acceptedFrameRates, bitrateStepKbps, breachesOf, sizesToOffer } from '../../fit'
import { pictureScore } from '../../media'
import type { Pin, Rendition, Show } from '../../show'
import { kbpsInWords, listInWords, renditionInWords } from '../../words'
import { ended } from '../ended'
import { fittingAside } from '../fitShow'
import { planSummary } from '../planSummary'

/** A rise that is worth having: what gains less is not seen. */
const leastGainPoints = 1
const stepPins: readonly Pin[] = ['size', 'frame rate', 'video bitrate']

/** The next better rendition of a send, and what the best plan that has it takes from the others. */
export interface NextStep {
  rendition: Rendition
  score: number
  gainPoints: number
  /** What each of the others loses; null where no plan has room for the step. */
  costs: { name: string; points: number; isLeftOut: boolean }[] | null
}

/** The lowest bitrate, with its best size and frame rate, that gains at least a point; null where none is accepted that does. */
function nextRendition(show: Show, destination: Show['destinations'][number]): Rendition | null {
  const [main] = destination.renditions
  if (!main) return null
  const { rules, canvas, viewers } = destination
  const canvasSize = show.canvasPair[canvas]
  const scoreOf = (rendition: Rendition): number =>
    pictureScore(rendition, show.pictureKind, viewers[0] ?? 'desk')
  const wanted = scoreOf(main) + leastGainPoints
  const rates = acceptedFrameRates(rules).filter((rate) => rate <= show.canvasPair.framesPerSecond)
  const variants = sizesToOffer(rules, canvasSize).flatMap(({ width, height }) =>
    rates.map((framesPerSecond) => ({ width, height, framesPerSecond })),
  )
  const isAccepted = (rendition: Rendition): boolean =>
    breachesOf({ ...destination, renditions: [rendition] }, show.canvasPair).length <=
    breachesOf({ ...destination, renditions: [main] }, show.canvasPair).length
  const from = Math.floor(main.videoBitrateKbps / bitrateStepKbps + 1) * bitrateStepKbps
  for (let kbps = from; kbps <= rules.mostVideoBitrateKbps; kbps += bitrateStepKbps) {
    const better = variants
      .map((variant): Rendition => ({ ...main, ...variant, videoBitrateKbps: kbps }))
      .map((rendition) => ({ rendition, score: scoreOf(rendition) }))
      .filter(({ score }) => score >= wanted)
      .sort((a, b) => b.score - a.score)
      .find(({ rendition }) => isAccepted(rendition))
    if (better) return better.rendition
  }
  return null
}

/**
 * The next step up of a destination's main rendition, with what it costs the others: found by
 * planning again with the step pinned. null where no accepted step gains a point.
 */
export function nextStepOf(show: Show, destinationId: string): NextStep | null {
  const destination = show.destinations.find(({ id }) => id === destinationId)
  const rendition = destination && nextRendition(show, destination)
  if (!rendition) return null
  const scoreOf = (each: Rendition): number =>
    pictureScore(each, show.pictureKind, destination.viewers[0] ?? 'desk')
  const score = scoreOf(rendition)
  const gainPoints = score - scoreOf(destination.renditions[0] as Rendition)
  const stepped: Show = {
    ...show,
    destinations: show.destinations.map((each) =>
      each === destination
        ? {
            ...each,
            plan: { ...each.plan, mustKeep: true },
            renditions: [
              { ...rendition, pins: [...new Set([...rendition.pins, ...stepPins])] },
              ...each.renditions.slice(1),
            ],
          }
        : each,
    ),
  }
  const [before, after] = [ended(fittingAside(show)), ended(fittingAside(stepped))]
  if (!before.parts || !after.parts) return { rendition, score, gainPoints, costs: null }
  const left = new Map(planSummary(show, after.parts).rows.map((row) => [row.id, row.score]))
  const costs = planSummary(show, before.parts).rows.flatMap(({ id, name, score: had }) => {
    const has = left.get(id) ?? null
    if (id === destinationId || had === null) return []
    return [{ name, points: had - (has ?? 0), isLeftOut: has === null }]
  })
  return { rendition, score, gainPoints, costs: costs.filter(({ points }) => points >= 0.05) }
}

/** As in "Next step up: 6,200 kb/s of 1080p60 gains 1.0 point and costs Hedgerow Live 0.4 points." */
export function nextStepInWords({ rendition, gainPoints, costs }: NextStep): string {
  const points = (value: number): string =>
    `${value.toFixed(1)} ${value.toFixed(1) === '1.0' ? 'point' : 'points'}`
  const gain = `Next step up: ${kbpsInWords(rendition.videoBitrateKbps)} of ${renditionInWords(rendition)} gains ${points(gainPoints)}`
  if (!costs) return `${gain}, but no plan has room for it.`
  if (costs.length === 0) return `${gain} and costs the others nothing.`
  const words = costs.map((cost) =>
    cost.isLeftOut ? `${cost.name} its place` : `${cost.name} ${points(cost.points)}`,
  )
  return `${gain} and costs ${listInWords(words)}.`
}
