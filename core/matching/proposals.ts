import { isBackdrop, zoneBox, zonesInUse } from '../canvas'
import {
  type CanvasName,
  type Layer,
  otherCanvas,
  type Placement,
  type Scene,
  type Show,
  type Size,
} from '../show'
import { arrange, type Plan, plansFor } from './candidates'
import { type Item, itemsOn, wasSeen } from './items'
import { judge, type Judgement, type Target } from './judge'

/** One way to arrange a canvas so that it matches the other. */
export interface Proposal {
  /** How it is arranged, in words. */
  name: string
  /** 0 to 100; the best comes first. */
  score: number
  /** What it gives up, in words; empty where nothing. */
  costs: string[]
  /** The placement of every layer of the scene on the canvas, by the layer's identifier. */
  placements: Record<string, Placement>
}

export const maxProposals = 5

/** Two arrangements look the same when nothing differs by more than this share of the canvas. */
const sameWithinShare = 0.04

interface Candidate extends Judgement {
  plan: Plan
  layers: Layer[]
}

/** What the other canvas does not show is hidden here too, except a backdrop behind everything, which only fills what would be black. */
function standingOfOthers(
  scene: Scene,
  items: readonly Item[],
  canvas: CanvasName,
  size: Size,
): Layer[] {
  const placed = new Set(items.map(({ layer }) => layer.id))
  const lastPlaced = scene.layers.findLastIndex(({ id }) => placed.has(id))
  return scene.layers.map((layer, index) => {
    if (placed.has(layer.id)) return layer
    const stays = index > lastPlaced && isBackdrop(layer[canvas], size)
    return stays ? layer : { ...layer, [canvas]: { ...layer[canvas], shown: false } }
  })
}

function withPlacements(
  layers: readonly Layer[],
  placements: ReadonlyMap<string, Placement>,
  canvas: CanvasName,
): Layer[] {
  return layers.map((layer) => {
    const placement = placements.get(layer.id)
    return placement
      ? { ...layer, [canvas]: { ...placement, shown: true, locked: layer[canvas].locked } }
      : layer
  })
}

const compareBroken = (a: Judgement, b: Judgement): number => {
  const place = a.broken.findIndex((value, index) => value !== b.broken[index])
  return place < 0 ? 0 : (a.broken[place] as number) - (b.broken[place] as number)
}

function looksLike(a: Candidate, b: Candidate, canvas: CanvasName, size: Size): boolean {
  return a.layers.every((layer, index) => {
    const [here, there] = [layer[canvas], (b.layers[index] as Layer)[canvas]]
    const across = Math.max(Math.abs(here.x - there.x), Math.abs(here.width - there.width))
    const down = Math.max(Math.abs(here.y - there.y), Math.abs(here.height - there.height))
    return across <= sameWithinShare * size.width && down <= sameWithinShare * size.height
  })
}

const inWords = (names: readonly string[]): string =>
  names.length < 2 ? (names[0] ?? '') : `${names.slice(0, -1).join(', ')} and ${names.at(-1)}`
const sourceNames = (list: readonly Item[]): string =>
  inWords(list.map(({ source }) => source.name))

/** Pictures whose middles are this close, as a share of the canvas's height, stand side by side. */
const sameRowShare = 0.05

function rowsOf(
  standing: readonly Item[],
  placementOf: (item: Item) => Placement,
  size: Size,
): Item[][] {
  const middle = (item: Item): number => placementOf(item).y + placementOf(item).height / 2
  const rows: Item[][] = []
  for (const item of [...standing].sort((a, b) => middle(a) - middle(b))) {
    const [last] = rows.at(-1) ?? []
    if (last && middle(item) - middle(last) < sameRowShare * size.height) rows.at(-1)?.push(item)
    else rows.push([item])
  }
  return rows.map((row) => row.sort((a, b) => placementOf(a).x - placementOf(b).x))
}

const thirds = ['at the top', 'in the middle', 'at the bottom'] as const

/** An arrangement in words; two that are called the same differ only in detail. */
function nameOf({ layers }: Candidate, items: readonly Item[], { canvas, size }: Target): string {
  const byId = new Map(layers.map((layer) => [layer.id, layer[canvas]]))
  const placementOf = (item: Item): Placement => byId.get(item.layer.id) as Placement
  const isFilling = (item: Item): boolean => isBackdrop(placementOf(item), size)
  const seen = items.filter(({ seenShare }) => seenShare > wasSeen)
  const standing = items.filter((item) => !isFilling(item) && item.role !== 'words')
  const parts: string[] = []
  if (standing.length > 0)
    parts.push(rowsOf(standing, placementOf, size).map(sourceNames).join(' above '))
  const closer = standing.filter(({ layer, from }) => {
    const { left, top, right, bottom } = (byId.get(layer.id) as Placement).trim
    return (
      left + top + right + bottom >
      from.trim.left + from.trim.top + from.trim.right + from.trim.bottom + 8
    )
  })
  if (closer.length > 0) parts.push(`${sourceNames(closer)} closer`)
  const filling = seen.filter((item) => isFilling(item) && item.role !== 'words')
  if (filling.length > 0)
    parts.push(`${sourceNames(filling)} ${filling.length > 1 ? 'fill' : 'fills'} the canvas`)
  const words = items.filter(({ role }) => role === 'words')
  const middles = words.map((item) => placementOf(item).y + placementOf(item).height / 2)
  if (middles.length > 0) {
    const middle = middles.reduce((sum, y) => sum + y, 0) / middles.length / size.height
    parts.push(`words ${thirds[Math.min(2, Math.max(0, Math.floor(middle * 3)))]}`)
  }
  const [first = 'Nothing', ...rest] = parts
  return [(first[0] ?? '').toUpperCase() + first.slice(1), ...rest].join('; ')
}

/**
 * Proposes up to five arrangements of one canvas of a scene from the other, the best first; empty
 * where the other shows nothing.
 *
 * Every proposal shows all that the other canvas shows, in the same front-to-back order, and trims
 * only where the source's focus stays whole. Off the canvas, hidden, unreadable, covered by more
 * than 5 % and blown up are each avoided, in this order, wherever any arrangement tried avoids them.
 */
export function matchProposals(
  show: Pick<Show, 'canvasPair' | 'sources' | 'destinations'>,
  scene: Scene,
  canvas: CanvasName,
): Proposal[] {
  const from = otherCanvas[canvas]
  const [before, size] = [show.canvasPair[from], show.canvasPair[canvas]]
  const items = itemsOn(show, scene, from)
  if (items.length === 0) return []
  const target: Target = {
    canvas,
    size,
    zones: zonesInUse(show.destinations, canvas).map(({ zone }) => zoneBox(zone, size)),
    sources: new Map(show.sources.map((source) => [source.id, source])),
  }
  const others = standingOfOthers(scene, items, canvas, size)
  const candidates = plansFor(items, target).flatMap((plan): Candidate[] => {
    const placements = arrange(plan, items, before, target)
    if (!placements) return []
    const layers = withPlacements(others, placements, canvas)
    return [{ plan, layers, ...judge(items, layers, before, target) }]
  })
  const sorted = candidates.sort((a, b) => compareBroken(a, b) || b.score - a.score)
  const [best] = sorted
  // A second choice breaks no promise that the first keeps.
  const equals = sorted.filter((candidate) => best && compareBroken(candidate, best) === 0)
  const named = equals.map((candidate) => ({
    ...candidate,
    name: nameOf(candidate, items, target),
  }))
  return distinct(named, canvas, size).map(({ name, score, costs, layers }) => ({
    name,
    score,
    costs,
    placements: Object.fromEntries(layers.map((layer) => [layer.id, layer[canvas]])),
  }))
}

/** The best of each kind first; where there are fewer kinds than places, others that look different. */
function distinct<Named extends Candidate & { name: string }>(
  candidates: readonly Named[],
  canvas: CanvasName,
  size: Size,
): Named[] {
  const chosen: Named[] = []
  const consider = (isNew: (candidate: Named) => boolean): void => {
    for (const candidate of candidates)
      if (
        chosen.length < maxProposals &&
        isNew(candidate) &&
        !chosen.some((other) => looksLike(candidate, other, canvas, size))
      )
        chosen.push(candidate)
  }
  consider(({ name }) => !chosen.some((other) => other.name === name))
  consider(() => true)
  return chosen.sort((a, b) => b.score - a.score)
}
