import { eachPart, type Part } from './parts'

/** A show before it had an order of its night, and how late its pages were taken to be; frozen here. */
const firstRunSheet = { people: [], marginMinutes: 5, changes: [], ownTasks: [], seen: null }
const firstLagSeconds = 8

/** Version 7 knew nothing of the night itself. */
export function fromVersion7(show: Part): Part {
  return {
    runSheet: firstRunSheet,
    ...show,
    destinations: eachPart(show.destinations, (destination) => ({
      lagSeconds: firstLagSeconds,
      ...destination,
    })),
  }
}
