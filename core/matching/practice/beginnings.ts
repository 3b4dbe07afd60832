import {
  type Layer,
  type MakeIdentifier,
  newLayer,
  newSource,
  type Show,
  type Source,
  type SourceKind,
} from '../../show'
import { withAddedByPractice } from './arrange'

/** What shows usually begin with; common practice, no published source. */
export const usualBeginnings = [
  { id: 'camera and screen', label: 'Camera and screen', kinds: ['screen', 'camera'] },
  { id: 'camera alone', label: 'Camera alone', kinds: ['camera'] },
  { id: 'screen alone', label: 'Screen alone', kinds: ['screen'] },
  { id: 'two people', label: 'Two people', kinds: ['camera', 'guest'] },
] as const satisfies readonly { id: string; label: string; kinds: readonly SourceKind[] }[]
export type Beginning = (typeof usualBeginnings)[number]

/** The sources of a beginning, and a scene's layers with them on both canvases. */
export function begun(
  show: Pick<Show, 'canvasPair' | 'sources' | 'destinations'>,
  { kinds }: Beginning,
  makeIdentifier: MakeIdentifier,
): { sources: Source[]; layers: Layer[] } {
  const sources = [...show.sources]
  let layers: Layer[] = []
  for (const kind of kinds) {
    const source = newSource({ sources }, kind, makeIdentifier)
    sources.push(source)
    layers = withAddedByPractice(
      { ...show, sources },
      { layers },
      newLayer(show, source, makeIdentifier),
    )
  }
  return { sources: sources.slice(show.sources.length), layers }
}
