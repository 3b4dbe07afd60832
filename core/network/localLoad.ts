import type { LocalNetwork } from '../show'

/** Common practice: load a local link to this share of its rate at most, no published source. */
export const plannedLocalShare = 0.7

/** What the devices put on the local link; rates in kb/s. */
export interface LocalLoad {
  loadKbps: number
  plannedKbps: number
  /** 1 = the whole link rate. */
  share: number
  fits: boolean
}

/** The sum of what is on, against the planned share of the link rate. */
export function localLoad({ linkKbps, devices }: LocalNetwork): LocalLoad {
  const loadKbps = devices
    .filter(({ on }) => on)
    .reduce((sum, { bitrateKbps }) => sum + bitrateKbps, 0)
  const plannedKbps = linkKbps * plannedLocalShare
  return { loadKbps, plannedKbps, share: loadKbps / linkKbps, fits: loadKbps <= plannedKbps }
}
