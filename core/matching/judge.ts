import {
  areaOf,
  boundsOf,
  cornersOf,
  coveredLimit,
  type Box,
  filledShare,
  isBackdrop,
  isReadable,
  shareUnder,
  sharpLimit,
  sharpness,
  totalArea,
  usedPart,
  visibleParts,
  wordsSize,
} from '../canvas'
import {
  type CanvasName,
  hasOwnPixels,
  type Layer,
  type Placement,
  type Size,
  type Source,
} from '../show'
import { type Item, wasSeen } from './items'

/** The canvas that is being arranged. */
export interface Target {
  canvas: CanvasName
  size: Size
  /** The cover zones of the destinations in use, in canvas pixels. */
  zones: readonly Box[]
  sources: ReadonlyMap<string, Source>
}

export interface Judgement {
  /** Broken promises, the gravest first: off the canvas or hidden, unreadable, covered, blown up. Fewer is better, place by place. */
  broken: readonly [lost: number, unreadable: number, covered: number, blownUp: number]
  /** 0 to 100. */
  score: number
  /** What this arrangement gives up, in words. */
  costs: string[]
}

/** What the parts of the score may cost at most; set by us. */
const weights = {
  size: 40,
  cameraBelow: 12,
  trimmed: 10,
  elsewhere: 18,
  blownUp: 20,
  covered: 40,
  unreadable: 30,
  lost: 60,
  reshaped: 12,
} as const

/** A picture with this share of the canvas is as large as it need be. */
const plentifulShare = 0.35
/** Of a source that was seen, at least this share of its placement has to stay visible. */
const visibleEnough = 0.5

interface Standing {
  item: Item
  placement: Placement
  isOff: boolean
  isHidden: boolean
  covered: number
  isReadable: boolean
  blownUp: number
  trimmedShare: number
  share: number
  movedBy: number
  /** How far words are from the shape they were made in, 0 to 1. */
  reshaped: number
}

function standingOf(item: Item, layers: readonly Layer[], before: Size, target: Target): Standing {
  const { canvas, size, sources, zones } = target
  const index = layers.findIndex(({ id }) => id === item.layer.id)
  const placement = (layers[index] as Layer)[canvas]
  const bounds = boundsOf(placement)
  const used = usedPart(item.native, placement.trim)
  const visible = visibleParts(layers, index, canvas, size, sources)
  const own = areaOf(cornersOf(placement))
  const isBehindAll = isBackdrop(placement, size)
  const sharp = hasOwnPixels(item.source) ? sharpness(placement, item.native) : 1
  const middle = (box: Box, on: Size) => ({
    x: (box.x + box.width / 2) / on.width,
    y: (box.y + box.height / 2) / on.height,
  })
  const [here, there] = [middle(bounds, size), middle(boundsOf(item.from), before)]
  return {
    item,
    placement,
    isOff:
      bounds.x < -0.5 ||
      bounds.y < -0.5 ||
      bounds.x + bounds.width > size.width + 0.5 ||
      bounds.y + bounds.height > size.height + 0.5,
    isHidden: item.seenShare > wasSeen && totalArea(visible) < visibleEnough * own,
    covered: isBehindAll ? 0 : (shareUnder(visible, zones) ?? 0),
    isReadable: isReadable(placement, item.source, size),
    blownUp: sharp < sharpLimit ? 1 / sharp : 1,
    trimmedShare: Math.max(
      0,
      1 - (used.width * used.height) / (item.region.width * item.region.height),
    ),
    share: filledShare(placement, size),
    movedBy: Math.hypot(here.x - there.x, here.y - there.y),
    reshaped: item.role === 'words' ? reshapedShare(placement, item.from) : 0,
  }
}

function reshapedShare(here: Size, there: Size): number {
  const ratio = here.width / here.height / (there.width / there.height)
  return 1 - Math.min(ratio, 1 / ratio)
}

/** The share of pairs of a camera and a screen in which the camera stands lower; it belongs above on vertical. */
function camerasBelow(standings: readonly Standing[], target: Target): number {
  if (target.canvas !== 'vertical') return 0
  const of = (role: Item['role']) =>
    standings.filter(
      ({ item, placement }) => item.role === role && !isBackdrop(placement, target.size),
    )
  const pairs = of('camera').flatMap((camera) => of('screen').map((screen) => ({ camera, screen })))
  const below = pairs.filter(
    ({ camera, screen }) =>
      boundsOf(camera.placement).y > boundsOf(screen.placement).y + 1 &&
      boundsOf(camera.placement).y >=
        boundsOf(screen.placement).y + boundsOf(screen.placement).height / 2,
  )
  return pairs.length === 0 ? 0 : below.length / pairs.length
}

const mean = (values: readonly number[]): number =>
  values.length === 0 ? 0 : values.reduce((sum, value) => sum + value, 0) / values.length
const count = (values: readonly boolean[]): number => values.filter(Boolean).length
const percent = (share: number): string => `${Math.round(100 * share)} %`

function costsOf(standing: Standing, target: Target): string[] {
  const { item, placement } = standing
  const { name } = item.source
  const costs: string[] = []
  // Nobody misses what nobody saw.
  if (item.seenShare <= wasSeen) return costs
  if (standing.isOff) costs.push(`${name} reaches beyond the canvas`)
  if (standing.isHidden) costs.push(`${name} is partly hidden`)
  if (standing.trimmedShare > 0.01)
    costs.push(`${name} loses ${percent(standing.trimmedShare)} of its picture`)
  if (standing.blownUp > 1) costs.push(`${name} is blown up ${standing.blownUp.toFixed(2)} times`)
  if (standing.covered > 0.005) costs.push(`${name} is ${percent(standing.covered)} covered`)
  if (!standing.isReadable)
    costs.push(`${name} has words of only ${Math.round(wordsSize(placement, item.source) ?? 0)} px`)
  if (item.role !== 'words' && standing.share < 0.1)
    costs.push(
      `${name} gets ${percent(boundsOf(placement).width / target.size.width)} of the width`,
    )
  return costs
}

/** Judges an arrangement: the promises it breaks, its score, and what it costs. `layers` carry the placements proposed. */
export function judge(
  items: readonly Item[],
  layers: readonly Layer[],
  before: Size,
  target: Target,
): Judgement {
  const standings = items.map((item) => standingOf(item, layers, before, target))
  const pictures = standings.filter(({ item }) => item.role !== 'words')
  const weight = ({ item }: Standing): number => Math.sqrt(item.seenShare) + 0.05
  const weightSum = pictures.reduce((sum, standing) => sum + weight(standing), 0)
  const largeness =
    weightSum === 0
      ? 1
      : pictures.reduce(
          (sum, standing) =>
            sum + weight(standing) * Math.sqrt(Math.min(1, standing.share / plentifulShare)),
          0,
        ) / weightSum
  const broken = [
    count(standings.map(({ isOff, isHidden }) => isOff || isHidden)),
    count(standings.map((standing) => !standing.isReadable)),
    count(standings.map(({ covered }) => covered > coveredLimit)),
    count(standings.map(({ blownUp }) => blownUp > 1)),
  ] as const
  const isBelow = camerasBelow(standings, target)
  const loss =
    weights.size * (1 - largeness) +
    weights.cameraBelow * isBelow +
    weights.trimmed * mean(standings.map(({ trimmedShare }) => trimmedShare)) +
    weights.elsewhere * mean(standings.map(({ movedBy }) => Math.min(1, movedBy))) +
    weights.blownUp * mean(standings.map(({ blownUp }) => Math.min(1, blownUp - 1))) +
    weights.covered * mean(standings.map(({ covered }) => covered)) +
    weights.reshaped * mean(standings.map(({ reshaped }) => reshaped)) +
    weights.unreadable * Math.min(1, broken[1]) +
    weights.lost * Math.min(1, broken[0])
  return {
    broken,
    score: Math.max(0, Math.min(100, 100 - loss)),
    costs: [
      ...standings.flatMap((standing) => costsOf(standing, target)),
      ...(isBelow > 0 ? ['a camera stands below a screen'] : []),
    ],
  }
}
