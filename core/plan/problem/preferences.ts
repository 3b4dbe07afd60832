import type { PlannedShow, RenditionRequest } from './renditionRequests'
import type { Rendition } from '../../show'

/** What the last plan set for one demand: the cells of its rendition, and its route. */
export type LastCells = Pick<
  Rendition,
  'width' | 'height' | 'framesPerSecond' | 'codec' | 'effort' | 'videoBitrateKbps'
> & {
  /** Place among the devices of the problem. */
  device: number
  /** Place among the relays of the problem; null where it was sent to directly. */
  relay: number | null
}

/** By what a plan is chosen among those that are nearly the best. */
export interface Preferences {
  /** So many score units a plan may stay below the best for each unit of priority that it keeps. */
  marginUnits: number
  /** By demand; null where no plan has set its cells. */
  last: readonly (LastCells | null)[]
}

/** No margin, and no plan before. */
export const noPreferences: Preferences = { marginUnits: 0, last: [] }

/** What the plan that a show holds says of one request; null where no plan said anything, or left it out. */
export function lastCellsOf(
  { destination, rendition, isHandOff, source }: RenditionRequest,
  show: PlannedShow,
  { deviceIds, relayIds }: { deviceIds: readonly (string | null)[]; relayIds: readonly string[] },
): LastCells | null {
  const plan = destination
    ? destination.plan
    : show.recordings.find(({ id }) => id === source.id)?.plan
  if (isHandOff || !plan?.planned || plan.leftOut) return null
  const { width, height, framesPerSecond, codec, effort, videoBitrateKbps, encoder } = rendition
  const relay = relayIds.indexOf(destination?.relayId ?? '')
  return {
    width,
    height,
    framesPerSecond,
    codec,
    effort,
    videoBitrateKbps,
    device: deviceIds.indexOf(encoder.deviceId),
    relay: relay < 0 ? null : relay,
  }
}
