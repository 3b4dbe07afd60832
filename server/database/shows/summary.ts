import { verdictOf } from '@green-mantle/core/fit'
import { rehearsalInWords } from '@green-mantle/core/rehearsal'
import { layersOnAir, type Show, type ShowSummary } from '@green-mantle/core/show'

/** Raised when a summary says something else of the same show; older ones are then made anew. */
export const summaryVersion = 2

/** What is kept of a show for the list, beside what its row says anyway. */
export type KeptSummary = Omit<ShowSummary, 'id' | 'revision' | 'updatedAt'>

/** What Home shows of a show: its first scene as picture, its destinations and its verdict. */
export function keptSummaryOf(show: Show): KeptSummary {
  const { state, sentence } = verdictOf(show)
  const rehearsed = rehearsalInWords(show)
  const scene = show.scenes.find((candidate) => candidate.layers.length > 0)
  const layers = {
    landscape: scene ? layersOnAir(show, scene, 'landscape') : [],
    vertical: scene ? layersOnAir(show, scene, 'vertical') : [],
  }
  const used = new Set(
    Object.values(layers).flatMap((list) => list.map(({ sourceId }) => sourceId)),
  )
  return {
    title: show.title,
    startsAt: show.startsAt,
    timeZone: show.timeZone,
    canvasPair: show.canvasPair,
    layers,
    dressing: show.dressing,
    sources: show.sources.filter((source) => used.has(source.id)),
    destinations: show.destinations.map(({ name, canvas, on }) => ({ name, canvas, on })),
    verdict: { state, sentence: rehearsed ? `${sentence}, ${rehearsed}` : sentence },
  }
}

/** The columns of a show's row that hold its summary. */
export const summaryColumns = (show: Show): { summary: string; summary_version: number } => ({
  summary: JSON.stringify(keptSummaryOf(show)),
  summary_version: summaryVersion,
})

/** The summary of a show that was just stored. */
export const summaryOf = ({
  id,
  revision,
  updatedAt,
  show,
}: {
  id: string
  revision: number
  updatedAt: Date
  show: Show
}): ShowSummary => ({
  id,
  revision,
  updatedAt: updatedAt.toISOString(),
  ...keptSummaryOf(show),
})
