import { verdictOf } from '@green-mantle/core/fit'
import { layersOnAir, type ShowSummary } from '@green-mantle/core/show'
import type { StoredShow } from '../database/shows/showStore'

/** What Home shows of a show: its first scene as picture, its destinations and its verdict. */
export function summaryOf({ id, revision, updatedAt, show }: StoredShow): ShowSummary {
  const { state, sentence } = verdictOf(show)
  const scene = show.scenes.find((candidate) => candidate.layers.length > 0)
  const layers = {
    landscape: scene ? layersOnAir(show, scene, 'landscape') : [],
    vertical: scene ? layersOnAir(show, scene, 'vertical') : [],
  }
  const used = new Set(
    Object.values(layers).flatMap((list) => list.map(({ sourceId }) => sourceId)),
  )
  return {
    id,
    revision,
    updatedAt: updatedAt.toISOString(),
    title: show.title,
    startsAt: show.startsAt,
    timeZone: show.timeZone,
    canvasPair: show.canvasPair,
    layers,
    dressing: show.dressing,
    sources: show.sources.filter((source) => used.has(source.id)),
    destinations: show.destinations.map(({ name, canvas, on }) => ({ name, canvas, on })),
    verdict: { state, sentence },
  }
}
