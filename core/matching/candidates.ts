import { type Box, isBackdrop, movedClear } from '../canvas'
import type { Placement, Size } from '../show'
import { freeBoxes } from './freeSpace'
import {
  aspectOf,
  fillingCanvas,
  type Item,
  partsOf,
  placementIn,
  wasSeen,
  wordsBox,
} from './items'
import type { Target } from './judge'
import { type Cell, inRows, stackIn } from './stack'

/** The choices that make an arrangement. */
export interface Plan {
  /** Fills the canvas behind all others although it did not before. */
  lead: Item | null
  /** Whether what filled the other canvas fills this one too, or stands among the rest. */
  backdrops: 'fill' | 'stand among the rest'
  space: Box
  perRow: number
  /** 0 shows all that the other canvas shows; higher is closer about the focus. */
  closeness: number
  first: 'camera' | 'screen'
  words: 'above' | 'between' | 'below' | 'where they were'
}

const spacesTried = 4
const gapShare = 0.025
/** Words keep this far from the canvas's edges, as a share of its width (EBU R 95, graphics safe). */
const wordsMargin = 0.05

/** Whether something that viewers saw stands behind an item in the front-to-back order. */
function hidesOthers(item: Item, items: readonly Item[]): boolean {
  return items.slice(items.indexOf(item) + 1).some((other) => other.seenShare > wasSeen)
}

const orNone = <Value>(values: readonly Value[], none: Value): readonly Value[] =>
  values.length > 0 ? values : [none]

/** Every way to arrange the items on the target that is worth a look. */
export function plansFor(items: readonly Item[], target: Target): Plan[] {
  const canvas = target.size
  const behind = items.filter(({ wasBackdrop, role }) => wasBackdrop && role !== 'words')
  const seenBehind = behind.filter(({ seenShare }) => seenShare > wasSeen)
  const pictures = items.filter(({ role }) => role !== 'words')
  const leads = pictures.filter(
    (item) =>
      !behind.includes(item) && !hidesOthers(item, items) && fillingCanvas(item, canvas) !== null,
  )
  const whole = { x: 0, y: 0, ...canvas }
  const free = freeBoxes(canvas, target.zones).slice(0, spacesTried)
  const spaces = target.zones.length > 0 ? [...free, whole] : free
  const standing = pictures.length - behind.length + seenBehind.length
  const most = Math.min(4, Math.max(1, standing))
  const closest = Math.max(1, ...pictures.map((item) => partsOf(item).length))
  const hasWords = items.some(({ role }) => role === 'words')
  const roles = new Set(pictures.map(({ role }) => role))
  const range = (length: number): number[] => Array.from({ length }, (_, index) => index)

  const backdropChoices =
    seenBehind.length > 0 ? (['fill', 'stand among the rest'] as const) : (['fill'] as const)
  const firsts = roles.size > 1 ? (['camera', 'screen'] as const) : (['camera'] as const)
  const wordsChoices = hasWords
    ? (['where they were', 'between', 'above', 'below'] as const)
    : (['below'] as const)
  const plans: Plan[] = []
  for (const lead of [null, ...leads])
    for (const backdrops of backdropChoices)
      for (const space of orNone(spaces, whole))
        for (const perRow of range(most))
          for (const closeness of range(closest))
            for (const first of firsts)
              for (const words of wordsChoices)
                plans.push({
                  lead,
                  backdrops,
                  space,
                  perRow: perRow + 1,
                  closeness,
                  first,
                  words,
                })
  return plans
}

function cellOf(item: Item, part: Box): Cell {
  return {
    key: item.layer.id,
    aspect: aspectOf(item, part),
    fixed: null,
    maxWidth: item.from.turnDegrees % 180 === 0 ? part.width : part.height,
  }
}

/** The order in which pictures stand: those that come first in the plan, each group as it stood on the other canvas. */
function inOrder(pictures: readonly Item[], first: Plan['first']): Item[] {
  const reading = ({ from }: Item): number => from.y + from.height / 2 + from.x / 1000
  return [...pictures].sort(
    (a, b) => Number(a.role !== first) - Number(b.role !== first) || reading(a) - reading(b),
  )
}

/** Where words go that are not stacked: as near as possible to where they stood, clear of zones and of what is placed. */
function wordsNear(
  item: Item,
  size: Size,
  before: Size,
  target: Target,
  obstacles: readonly Box[],
): Placement | null {
  const across = (item.from.x + item.from.width / 2) / before.width
  const down = (item.from.y + item.from.height / 2) / before.height
  const { width, height } = target.size
  const within = (value: number, length: number, whole: number): number =>
    Math.max(0, Math.min(value, whole - length))
  const box = {
    x: Math.round(within(across * width - size.width / 2, size.width, width)),
    y: Math.round(within(down * height - size.height / 2, size.height, height)),
    ...size,
  }
  return movedClear(placementIn(item, item.region, box, 1), target.size, obstacles)
}

/**
 * The placements that a plan leads to, by layer; null where something finds no place. What fills the
 * canvas lies behind; the rest stands in the plan's space without overlapping.
 */
export function arrange(
  plan: Plan,
  items: readonly Item[],
  before: Size,
  target: Target,
): Map<string, Placement> | null {
  const canvas = target.size
  const corners = Math.min(canvas.width, canvas.height) / Math.min(before.width, before.height)
  const placements = new Map<string, Placement>()
  const standing: Item[] = []
  for (const item of items) {
    // One that nobody saw, behind another, goes on doing what it did.
    const staysBehind = plan.backdrops === 'fill' || item.seenShare <= wasSeen
    const fills = item === plan.lead || (item.wasBackdrop && staysBehind)
    const filling = fills ? fillingCanvas(item, canvas) : null
    if (filling) placements.set(item.layer.id, filling)
    else standing.push(item)
  }
  const gap = gapShare * Math.min(canvas.width, canvas.height)
  const maxWordsWidth = Math.min(plan.space.width, canvas.width * (1 - 2 * wordsMargin))
  const words = standing.filter(({ role }) => role === 'words')
  const pictures = inOrder(
    standing.filter(({ role }) => role !== 'words'),
    plan.first,
  )
  const parts = new Map<string, Box>(
    pictures.map((item) => {
      const choices = partsOf(item)
      return [item.layer.id, choices[Math.min(plan.closeness, choices.length - 1)] as Box]
    }),
  )
  const rows = inRows(pictures, plan.perRow).map((row) =>
    row.map((item) => cellOf(item, parts.get(item.layer.id) as Box)),
  )
  const isStacked = plan.words !== 'where they were'
  const wordRows: Cell[][] = []
  for (const item of isStacked ? words : []) {
    const fixed = wordsBox(item, before, canvas, maxWordsWidth)
    if (!fixed) return null
    const { width, height } = fixed
    wordRows.push([{ key: item.layer.id, aspect: width / height, fixed, maxWidth: width }])
  }
  const middle = Math.ceil(rows.length / 2)
  const stacked = {
    above: [...wordRows, ...rows],
    below: [...rows, ...wordRows],
    between: [...rows.slice(0, middle), ...wordRows, ...rows.slice(middle)],
    'where they were': rows,
  }[plan.words]
  const boxes = stackIn(plan.space, stacked, gap)
  if (!boxes) return null
  for (const item of standing) {
    const box = boxes.get(item.layer.id)
    const part = parts.get(item.layer.id) ?? item.region
    if (box) placements.set(item.layer.id, placementIn(item, part, box, corners))
  }
  if (isStacked) return placements
  const obstacles = [
    ...target.zones,
    ...[...placements.values()].filter((placement) => !isBackdrop(placement, canvas)),
  ]
  for (const item of words) {
    const size = wordsBox(item, before, canvas, canvas.width * (1 - 2 * wordsMargin))
    const placement = size && wordsNear(item, size, before, target, obstacles)
    if (!placement) return null
    placements.set(item.layer.id, placement)
    obstacles.push(placement)
  }
  return placements
}
