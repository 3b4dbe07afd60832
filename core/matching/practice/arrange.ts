import {
  type Box,
  movedClear,
  boundsOf,
  isBackdrop,
  usedPart,
  zoneBox,
  zonesInUse,
} from '../../canvas'
import {
  type CanvasName,
  canvasNames,
  type Layer,
  nativeSizeOf,
  onBoth,
  type Placement,
  type Scene,
  type Show,
  type Size,
  type Source,
} from '../../show'
import { cropTowards, trimTo } from '../crops'
import { freeBoxes } from '../freeSpace'
import { fittedBox, marginShare, wholeOf } from './boxes'
import {
  insetShare,
  type LandscapeLayout,
  landscapeBoxes,
  landscapeLayouts,
  type Member,
} from './landscape'
import { depthOf, practiceRoleOf, practiceRoles } from './roles'
import { verticalBoxes } from './vertical'

type Arranged = Pick<Show, 'canvasPair' | 'sources' | 'destinations'>

const noTrim: Placement['trim'] = { left: 0, top: 0, right: 0, bottom: 0 }
/** In so small a share of the canvas a screen says nothing. */
const minFreeShare = 0.15

const zonesOn = ({ canvasPair, destinations }: Arranged, canvas: CanvasName): Box[] =>
  zonesInUse(destinations, canvas).map(({ zone }) => zoneBox(zone, canvasPair[canvas]))

const sourcesOf = ({ sources }: Arranged): Map<string, Source> =>
  new Map(sources.map((source) => [source.id, source]))

function inWholePixels(placement: Placement, { x, y, width, height }: Box): Placement {
  const [left, top] = [Math.round(x), Math.round(y)]
  return {
    ...placement,
    x: left,
    y: top,
    width: Math.max(1, Math.round(x + width) - left),
    height: Math.max(1, Math.round(y + height) - top),
    turnDegrees: 0,
  }
}

/** Over the whole canvas; a picture is trimmed to it, about its focus or its middle. */
function asBackdrop(placement: Placement, source: Source, canvas: Size): Placement {
  const trim = source.kind === 'colour' ? noTrim : filling(source, canvas.width / canvas.height)
  return inWholePixels({ ...placement, trim }, wholeOf(canvas))
}

/** The trim that leaves of a source what fills a box of these proportions, about its focus or its middle. */
function filling(source: Source, aspect: number): Placement['trim'] {
  const native = nativeSizeOf(source)
  const middle = { x: native.width / 2, y: native.height / 2, width: 0, height: 0 }
  return trimTo(native, cropTowards(wholeOf(native), aspect, source.focus ?? middle))
}

/** Boxes are in whole pixels, so that a trim that was made for one is not quite what it would be made now. */
const trimTolerance = 4

/** Whether somebody trimmed a source by hand: it is trimmed, and not to fill the box that it has. */
function isTrimmedByHand({ trim, width, height }: Placement, source: Source): boolean {
  const sides = ['left', 'top', 'right', 'bottom'] as const
  if (sides.every((side) => trim[side] === 0)) return false
  const own = filling(source, width / height)
  return sides.some((side) => Math.abs(trim[side] - own[side]) > trimTolerance)
}

function memberOf(layer: Layer, source: Source, canvas: CanvasName, size: Size): Member {
  const native = nativeSizeOf(source)
  const role = practiceRoleOf(source, size)
  const placement = layer[canvas]
  const trims = role === 'camera' && canvas === 'vertical' && !isTrimmedByHand(placement, source)
  const used = usedPart(native, trims ? noTrim : placement.trim)
  return { id: layer.id, role, aspect: used.width / used.height, native, trims }
}

/** In its box, or in as much of it as what may not be trimmed away leaves. */
function inBox(placement: Placement, box: Box, { trims }: Member, source: Source): Placement {
  if (!trims) return inWholePixels(placement, box)
  const native = nativeSizeOf(source)
  const trim = filling(source, box.width / box.height)
  const used = usedPart(native, trim)
  return inWholePixels({ ...placement, trim }, fittedBox(used.width / used.height, box))
}

/**
 * Where practice puts what a scene shows on a canvas, by layer; from the sources alone, whatever
 * stands where now. Flips, opacity and what was trimmed by hand stay; a backdrop is trimmed to the canvas,
 * a camera on the vertical one to what the rest leaves.
 */
export function practicePlacements(
  show: Arranged,
  layers: readonly Layer[],
  canvas: CanvasName,
  layout: LandscapeLayout = landscapeLayouts[0],
): Map<string, Placement> {
  const size = show.canvasPair[canvas]
  const sources = sourcesOf(show)
  const shown = layers.flatMap((layer) => {
    const source = sources.get(layer.sourceId)
    return source && layer[canvas].shown
      ? [{ layer, source, member: memberOf(layer, source, canvas, size) }]
      : []
  })
  const members = shown.map(({ member }) => member)
  const boxes =
    canvas === 'landscape'
      ? landscapeBoxes(members, size, layout)
      : verticalBoxes(
          members.filter(({ role }) => role !== 'backdrop'),
          size,
          zonesOn(show, canvas),
          members.some(({ role }) => role === 'backdrop'),
        )
  return new Map(
    shown.map(({ layer, source, member }) => {
      const box = boxes.get(layer.id)
      const placement =
        member.role === 'backdrop' || !box
          ? asBackdrop(layer[canvas], source, size)
          : inBox(layer[canvas], box, member, source)
      return [layer.id, placement]
    }),
  )
}

const stands = (a: Placement, b: Placement): boolean =>
  Math.abs(a.x - b.x) < 1 &&
  Math.abs(a.y - b.y) < 1 &&
  Math.abs(a.width - b.width) < 1 &&
  Math.abs(a.height - b.height) < 1 &&
  a.turnDegrees === b.turnDegrees

/** Whether nobody has arranged this canvas by hand: everything on it stands where practice puts it. */
function isByPractice(show: Arranged, layers: readonly Layer[], canvas: CanvasName): boolean {
  const placements = practicePlacements(show, layers, canvas)
  return layers.every((layer) => {
    const placement = placements.get(layer.id)
    return !placement || (!layer[canvas].locked && stands(layer[canvas], placement))
  })
}

/** A place for one more source beside what somebody has arranged, none of which moves. */
function besideTheRest(
  show: Arranged,
  layers: readonly Layer[],
  added: Layer,
  source: Source,
  canvas: CanvasName,
): Placement {
  const size = show.canvasPair[canvas]
  const alone = practicePlacements(show, [added], canvas).get(added.id) ?? added[canvas]
  const role = practiceRoleOf(source, size)
  if (role === 'backdrop') return alone
  const obstacles = [
    ...zonesOn(show, canvas),
    ...layers
      .map((layer) => layer[canvas])
      .filter((placement) => placement.shown && !isBackdrop(placement, size))
      .map(boundsOf),
  ]
  const { aspect } = memberOf(added, source, canvas, size)
  if (role === 'screen' || role === 'camera') {
    const [free] = freeBoxes(size, obstacles)
    const fits = free ? fittedBox(aspect, free) : null
    const isTaken = layers.some((layer) => isBackdrop(layer[canvas], size))
    const isRoomy = fits && fits.width * fits.height >= minFreeShare * size.width * size.height
    if (isRoomy && !isTaken) return inWholePixels(alone, fits)
    // Over what fills the canvas it stands in the corner.
    const width = insetShare * Math.max(size.width, size.height * 0.75)
    const margin = marginShare * size.width
    const corner = {
      x: size.width - margin - width,
      y: size.height - margin - width / aspect,
      width,
      height: width / aspect,
    }
    const placement = inWholePixels(alone, corner)
    return movedClear(placement, size, obstacles) ?? placement
  }
  return movedClear(alone, size, obstacles) ?? alone
}

/**
 * A scene's layers with one more source, where practice has it in front-to-back order and on each
 * canvas. What practice arranged before is arranged anew; what somebody moved stays, and the new one
 * goes beside it. `added` says on which canvases it is shown.
 */
export function withAddedByPractice(
  show: Arranged,
  scene: Pick<Scene, 'layers'>,
  added: Layer,
): Layer[] {
  const sources = sourcesOf(show)
  const source = sources.get(added.sourceId)
  if (!source) return [added, ...scene.layers]
  const before = scene.layers
  const byPractice = onBoth((canvas) => isByPractice(show, before, canvas))
  const isBehindAll = (layer: Layer): boolean =>
    canvasNames.some(
      (canvas) => !byPractice[canvas] && isBackdrop(layer[canvas], show.canvasPair[canvas]),
    )
  const depth = (layer: Layer): number => {
    const own = sources.get(layer.sourceId)
    // What somebody let fill a canvas is behind the others, whatever it is.
    if (layer !== added && isBehindAll(layer)) return practiceRoles.length
    return own ? depthOf(own, show.canvasPair.landscape) : 0
  }
  // Behind whoever belongs in front of it, but before all of its own kind.
  const at = scene.layers.findIndex((layer) => depth(layer) >= depth(added))
  const place = at < 0 ? scene.layers.length : at
  let layers: Layer[] = [...before.slice(0, place), added, ...before.slice(place)]
  for (const canvas of canvasNames) {
    if (!added[canvas].shown) continue
    const placements = byPractice[canvas]
      ? practicePlacements(show, layers, canvas)
      : new Map([[added.id, besideTheRest(show, before, added, source, canvas)]])
    layers = layers.map((layer) => ({
      ...layer,
      [canvas]: placements.get(layer.id) ?? layer[canvas],
    }))
  }
  return layers
}
