import type { Box } from '../../canvas'
import type { Size } from '../../show'
import { freeBoxes } from '../freeSpace'
import { type Cell, inRows, stackIn } from '../stack'
import { gridOf, inset, marginShare, wholeOf } from './boxes'
import type { Member } from './landscape'
import type { PracticeRole } from './roles'

/** Words are made for an upright canvas of this width. */
const madeForWidth = 1080
const gapShare = 0.02
/** A picture of fewer pixels is blown up to this share of the width all the same: smaller, nobody sees it. */
const minPictureShare = 0.6

const area = (boxes: Iterable<Box>): number =>
  [...boxes].reduce((sum, { width, height }) => sum + width * height, 0)

/** More faces than these would each be a strip. */
const mostFilling = 2

/**
 * A stack in which the cameras take all that the rest leaves of a space, side to side and from edge to
 * edge: whoever speaks fills an upright picture, trimmed, instead of standing as a strip in it. Null where
 * they cannot.
 */
function filledByCameras(
  stack: ReadonlyMap<string, Box>,
  members: readonly Member[],
  space: Box,
  gap: number,
): Map<string, Box> | null {
  const cameras = members.filter(({ role }) => role === 'camera')
  if (cameras.length === 0 || cameras.length > mostFilling) return null
  if (!cameras.every(({ trims }) => trims)) return null
  const isCamera = new Set(cameras.map(({ id }) => id))
  const isPicture = (id: string | undefined): boolean =>
    members.some((each) => each.id === id && ['camera', 'screen'].includes(each.role))
  const inOrder = [...stack].sort(([, a], [, b]) => a.y - b.y)
  // Words do not touch an edge.
  const margin = marginShare * space.width
  const top = isPicture(inOrder[0]?.[0]) ? 0 : margin
  const bottom = isPicture(inOrder.at(-1)?.[0]) ? 0 : margin
  const rows = [...new Set(inOrder.map(([, { y }]) => y))]
  const heightOf = (row: number): number =>
    Math.max(...inOrder.filter(([, { y }]) => y === row).map(([, { height }]) => height))
  const rowsOfCameras = rows.filter((row) =>
    inOrder.some(([id, { y }]) => y === row && isCamera.has(id)),
  )
  const others = rows.filter((row) => !rowsOfCameras.includes(row))
  const taken = others.reduce((sum, row) => sum + heightOf(row), gap * (rows.length - 1))
  const height = (space.height - top - bottom - taken) / rowsOfCameras.length
  if (rowsOfCameras.length < cameras.length || rowsOfCameras.some((row) => height < heightOf(row)))
    return null
  const filled = new Map<string, Box>()
  let y = space.y + top
  for (const row of rows) {
    for (const [id, box] of inOrder)
      if (box.y === row)
        filled.set(
          id,
          isCamera.has(id) ? { x: space.x, y, width: space.width, height } : { ...box, y },
        )
    y += (rowsOfCameras.includes(row) ? height : heightOf(row)) + gap
  }
  return filled
}

/**
 * Where everything stands on a vertical canvas, by identifier: cameras above screens, alerts on top,
 * caption and goal bar below, in the space that no cover zone takes. Common practice, no published
 * source. A camera's box may have other proportions than the camera: it is trimmed to it. Zones in canvas
 * pixels.
 */
export function verticalBoxes(
  members: readonly Member[],
  canvas: Size,
  zones: readonly Box[],
  hasBackdrop: boolean,
): Map<string, Box> {
  const of = (role: PracticeRole): Member[] => members.filter((member) => member.role === role)
  const gap = gapShare * canvas.width
  const stacked = (space: Box): Map<string, Box> | null => {
    const picture = ({ id, aspect, native }: Member): Cell => ({
      key: id,
      aspect,
      fixed: null,
      maxWidth: Math.max(native.width, minPictureShare * canvas.width),
    })
    const words = ({ id, aspect, native }: Member): Cell[] => {
      const margin = marginShare * canvas.width
      const width = Math.min((native.width * canvas.width) / madeForWidth, space.width - 2 * margin)
      return [{ key: id, aspect, fixed: { width, height: width / aspect }, maxWidth: width }]
    }
    const mark = ({ id, aspect }: Member): Cell[] => {
      const width = 0.3 * space.width
      return [{ key: id, aspect, fixed: { width, height: width / aspect }, maxWidth: width }]
    }
    const rows = (list: readonly Member[]): Cell[][] =>
      inRows(list, list.length > 2 ? 2 : 1).map((row) => row.map(picture))
    return stackIn(
      space,
      [
        ...of('alerts').map(words),
        ...of('mark').map(mark),
        ...rows(of('camera')),
        ...rows(of('screen')),
        ...of('caption').map(words),
        ...of('goal bar').map(words),
      ],
      gap,
    )
  }
  const whole = wholeOf(canvas)
  const spaces = zones.length > 0 ? [...freeBoxes(canvas, zones), whole] : [whole]
  const [best] = spaces
    .flatMap((space, place) => {
      // Words do not touch the edge; pictures alone may.
      const stack = stacked(space)
      // What is behind everything is there to be seen beside the cameras.
      const filled = stack && !hasBackdrop ? filledByCameras(stack, members, space, gap) : null
      const found = filled ?? stack
      return found ? [{ found, isClear: place < spaces.length - 1 || zones.length === 0 }] : []
    })
    .sort(
      (a, b) =>
        Number(b.isClear) - Number(a.isClear) || area(b.found.values()) - area(a.found.values()),
    )
  if (best) return best.found
  // More than a stack holds: everything gets its even share.
  const boxes = gridOf(members.length, inset(whole, gap), gap)
  return new Map(members.map(({ id }, index) => [id, boxes[index] as Box]))
}
