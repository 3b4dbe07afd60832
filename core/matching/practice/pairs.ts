import type { Layer, Placement, Scene, Show } from '../../show'
import { matchProposals, type Proposal } from '../proposals'
import { practicePlacements } from './arrange'
import { landscapeLayouts } from './landscape'

/** One way to arrange both canvases; `score` and `costs` are those of vertical as landscape's match. */
export interface PairProposal extends Pick<Proposal, 'name' | 'score' | 'costs'> {
  placements: Record<string, { landscape: Placement; vertical: Placement }>
}

const looksTheSame = (a: readonly Layer[], b: readonly Layer[]): boolean =>
  a.every(({ landscape: one }, index) => {
    const two = (b[index] as Layer).landscape
    return one.x === two.x && one.y === two.y && one.width === two.width
  })

/**
 * Arrangements of both canvases of a scene from its sources alone: landscape in each usual layout,
 * and vertical the best match of it. Empty where landscape shows nothing. The usual layout first.
 */
export function pairProposals(
  show: Pick<Show, 'canvasPair' | 'sources' | 'destinations'>,
  scene: Scene,
): PairProposal[] {
  const tried: Layer[][] = []
  const found = landscapeLayouts.flatMap((layout) => {
    const placements = practicePlacements(show, scene.layers, 'landscape', layout)
    const layers = scene.layers.map((layer) => ({
      ...layer,
      landscape: placements.get(layer.id) ?? layer.landscape,
    }))
    if (placements.size === 0 || tried.some((other) => looksTheSame(other, layers))) return []
    tried.push(layers)
    const [match] = matchProposals(show, { ...scene, layers }, 'vertical')
    return match ? [{ layout, layers, match }] : []
  })
  return found.map(({ layout, layers, match: { name, score, costs, placements } }) => ({
    // Where no camera stands beside a screen there is one layout, and it is what it shows.
    name: found.length === 1 ? name : `${layout[0]?.toUpperCase()}${layout.slice(1)}`,
    score,
    costs,
    placements: Object.fromEntries(
      layers.map((layer) => [
        layer.id,
        { landscape: layer.landscape, vertical: placements[layer.id] ?? layer.vertical },
      ]),
    ),
  }))
}
