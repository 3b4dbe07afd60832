import type { Box } from '../../canvas'
import type { Size } from '../../show'
import { fittedBox, gridOf, inset, marginShare, wholeOf } from './boxes'
import type { PracticeRole } from './roles'

/** One source that has to be placed. */
export interface Member {
  id: string
  role: PracticeRole
  /** Width ÷ height of what is shown of it. */
  aspect: number
  native: Size
  /** Whether it may be trimmed to the room that there is: nobody trimmed it by hand. */
  trims: boolean
}

/** How cameras and screens share a landscape canvas. Common practice, no published source. */
export const landscapeLayouts = [
  'camera in the right corner',
  'camera in the left corner',
  'camera beside the screen',
] as const
export type LandscapeLayout = (typeof landscapeLayouts)[number]

/** How wide an inset is, as a share of the canvas's width. */
export const insetShare = 0.24
const columnShare = 0.3
/** Words are made for a canvas of this width; on others they keep their share of it. */
const madeForWidth = 1920
const widestWordsShare = 0.46

/** Boxes along the bottom edge, the first in the corner. */
function cornerInsets(members: readonly Member[], canvas: Size, side: 'left' | 'right'): Box[] {
  const margin = marginShare * canvas.width
  const most = (canvas.width - margin * (members.length + 1)) / Math.max(1, members.length)
  let taken = margin
  return members.map(({ aspect }) => {
    const width = Math.min(insetShare * canvas.width * Math.min(1, aspect / 1.2), most)
    const height = width / aspect
    const x = side === 'right' ? canvas.width - taken - width : taken
    taken += width + margin
    return { x, y: canvas.height - margin - height, width, height }
  })
}

const fitEach = (members: readonly Member[], boxes: readonly Box[]): Box[] =>
  members.map(({ aspect }, index) => fittedBox(aspect, boxes[index] as Box))

/** Boxes of pictures by their members, and where insets took the bottom edge. */
function pictureBoxes(
  cameras: readonly Member[],
  screens: readonly Member[],
  canvas: Size,
  layout: LandscapeLayout,
  hasBackdrop: boolean,
): { boxes: Map<Member, Box>; taken: Box[] } {
  const gap = marginShare * canvas.width * 0.5
  const space = hasBackdrop
    ? inset(wholeOf(canvas), marginShare * canvas.width * 1.4)
    : wholeOf(canvas)
  const boxes = new Map<Member, Box>()
  const give = (members: readonly Member[], given: readonly Box[]): void =>
    members.forEach((member, index) => boxes.set(member, given[index] as Box))
  const fill = (members: readonly Member[], within: Box): void =>
    give(members, fitEach(members, gridOf(members.length, within, gap)))
  if (cameras.length === 0 || screens.length === 0) {
    fill([...cameras, ...screens], space)
    return { boxes, taken: [] }
  }
  if (layout === 'camera beside the screen') {
    const width = columnShare * space.width
    const heights = cameras.map(({ aspect }) => width / aspect)
    const tall = heights.reduce((sum, height) => sum + height, gap * (cameras.length - 1))
    // More than the canvas is high shrink together.
    const scale = Math.min(1, space.height / tall)
    let y = space.y + (space.height - tall * scale) / 2
    const column = cameras.map((_, index): Box => {
      const height = (heights[index] as number) * scale
      const box = { x: space.x + (width * (1 - scale)) / 2, y, width: width * scale, height }
      y += height + gap * scale
      return box
    })
    give(cameras, column)
    const from = space.x + width + gap
    fill(screens, { ...space, x: from, width: space.x + space.width - from })
    return { boxes, taken: column }
  }
  fill(screens, space)
  const side = layout === 'camera in the left corner' ? 'left' : 'right'
  const insets = cornerInsets(cameras, canvas, side)
  give(cameras, insets)
  return { boxes, taken: insets }
}

/** Where everything stands on a landscape canvas, by identifier. */
export function landscapeBoxes(
  members: readonly Member[],
  canvas: Size,
  layout: LandscapeLayout,
): Map<string, Box> {
  const of = (role: PracticeRole): Member[] => members.filter((member) => member.role === role)
  const margin = marginShare * canvas.width
  const { boxes, taken } = pictureBoxes(
    of('camera'),
    of('screen'),
    canvas,
    layout,
    of('backdrop').length > 0,
  )
  const found = new Map<string, Box>([...boxes].map(([{ id }, box]) => [id, box]))
  const wordsBox = ({ native, aspect }: Member, most: number): Size => {
    const width = Math.min((native.width * canvas.width) / madeForWidth, most)
    return { width, height: width / aspect }
  }
  const most = widestWordsShare * canvas.width

  let top = margin
  for (const member of of('alerts')) {
    const size = wordsBox(member, most)
    found.set(member.id, { ...size, x: (canvas.width - size.width) / 2, y: top })
    top += size.height + margin / 2
  }
  let left = margin
  for (const member of of('goal bar')) {
    // Beside the alerts in the middle there is so much room, and no more.
    const size = wordsBox(member, of('alerts').length > 0 ? 0.27 * canvas.width : most)
    found.set(member.id, { ...size, x: margin, y: left })
    left += size.height + margin / 2
  }
  let right = margin
  for (const member of of('mark')) {
    const { width, height } = wordsBox(member, 0.15 * canvas.width)
    found.set(member.id, { x: canvas.width - margin - width, y: right, width, height })
    right += height + margin / 2
  }
  const [insetFrom, insetTo] = [
    Math.min(canvas.width, ...taken.map(({ x }) => x)),
    Math.max(0, ...taken.map(({ x, width }) => x + width)),
  ]
  const isLeftFree = insetFrom > canvas.width - insetTo
  const [freeFrom, freeTo] =
    taken.length === 0 ? [0, canvas.width] : isLeftFree ? [0, insetFrom] : [insetTo, canvas.width]
  let bottom = canvas.height - margin
  for (const member of of('caption').toReversed()) {
    const size = wordsBox(member, Math.max(margin, freeTo - freeFrom - 2 * margin))
    const x = taken.length === 0 || isLeftFree ? freeFrom + margin : freeTo - margin - size.width
    bottom -= size.height
    found.set(member.id, { ...size, x, y: bottom })
    bottom -= margin / 2
  }
  return found
}
