import { verdictOf } from '@green-mantle/core/fit'
import type { ShowSummary } from '@green-mantle/core/show'
import type { StoredShow } from '../database/shows/showStore'

/** What Home shows of a show: its first scene as picture, its destinations and its verdict. */
export function summaryOf({ id, revision, updatedAt, show }: StoredShow): ShowSummary {
  const { state, sentence } = verdictOf(show)
  const scene = show.scenes.find(({ layers }) => layers.length > 0) ?? show.scenes[0] ?? null
  const used = new Set(scene?.layers.map(({ sourceId }) => sourceId))
  return {
    id,
    revision,
    updatedAt: updatedAt.toISOString(),
    title: show.title,
    startsAt: show.startsAt,
    timeZone: show.timeZone,
    canvasPair: show.canvasPair,
    scene,
    sources: show.sources.filter((source) => used.has(source.id)),
    destinations: show.destinations.map(({ name, canvas, on }) => ({ name, canvas, on })),
    verdict: { state, sentence },
  }
}
