import { eachPart, type Part } from './parts'

const firstWish = { priority: 3, mustKeep: false, leftOut: false, routePinned: true }
const firstPlanDetails = {
  encoder: {
    deviceId: null,
    rateControl: 'constant',
    profile: 'high',
    lookAheadFrames: 0,
    downscaling: 'lanczos',
  },
  pins: [],
}

/** Version 3 was set by hand throughout, knew nothing of the computer, and recorded nothing. */
export function fromVersion3(show: Part): Part {
  return {
    ...show,
    destinations: eachPart(show.destinations, (destination) => ({
      plan: firstWish,
      ...destination,
      renditions: eachPart(destination.renditions, (rendition) => ({
        ...firstPlanDetails,
        ...rendition,
      })),
    })),
    recordings: [],
    computer: { name: '', devices: [], freeDiskGigabytes: null },
    fit: { automatic: false, floorScore: 50 },
    keptPlans: [],
  }
}
