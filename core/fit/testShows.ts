import { demoShow } from '@green-mantle/demo'
import {
  type Destination,
  lineOf,
  newDestination,
  type Rendition,
  type Rules,
  type Show,
} from '../show'

let last = 0
/** A destination with what matters to a test. */
export function destination(
  rendition: Partial<Rendition> = {},
  rules: Partial<Rules> = {},
  changes: Partial<Destination> = {},
): Destination {
  const made = newDestination(
    () => `id-${(last += 1)}`,
    'Longmeadow',
    changes.canvas ?? 'landscape',
  )
  return {
    ...made,
    rules: { ...made.rules, ...rules },
    renditions: made.renditions.map((first) => ({ ...first, ...rendition })),
    ...changes,
  }
}
/** A show with as much usable upload as given; its headroom holds every peak. */
export function show(usableKbps: number, destinations: Destination[]): Show {
  const sample = { ...lineOf(demoShow).samples[0]!, uploadKbps: 2 * usableKbps }
  return {
    ...demoShow,
    destinations,
    recordings: [],
    lines: [{ ...lineOf(demoShow), headroomPercent: 50, otherTraffic: [], samples: [sample] }],
    lineId: demoShow.lineId,
  }
}
