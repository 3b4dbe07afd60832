import { type Line, lineOf } from '../line'
import type { Show } from '../show'
import { changedById } from './changedById'

type WithLines = Pick<Show, 'lines' | 'lineId'>

/** A show with the line that it goes up changed. */
export const withLine = <Shown extends WithLines>(
  show: Shown,
  change: (line: Line) => Line,
): Shown => ({ ...show, lines: changedById(show.lines, lineOf(show).id, change) })

/** A show whose line counts the measurements of one medium. */
export const withMedium = <Shown extends WithLines>(show: Shown, medium: Line['medium']): Shown =>
  withLine(show, (line) => ({ ...line, medium }))

/** A show during which one kind of other traffic is kept off the line. */
export const withoutTraffic = <Shown extends WithLines>(show: Shown, trafficId: string): Shown =>
  withLine(show, (line) => ({
    ...line,
    otherTraffic: changedById(line.otherTraffic, trafficId, (traffic) => ({
      ...traffic,
      on: false,
    })),
  }))
