import { eachPart, type Part } from './parts'

/** How every sender behaved before it could be said, and a show that was never rehearsed; frozen here. */
const firstSending = {
  whenBehind: 'drop',
  mostWaitSeconds: 2.5,
  lowerAfterSeconds: 0.8,
  lowerToPercent: 70,
  raiseByPercent: 5,
  leastPercent: 40,
  reconnectAfterSeconds: 2,
  reconnectTries: 25,
}
const firstRehearsal = {
  seed: 1,
  incidents: [],
  clean: { lostPercent: 0.5, awaySeconds: 10, behindSeconds: 5 },
  wantedPercent: 95,
  headroomFollows: false,
  last: null,
}

/** Version 5 knew nothing of simulated nights. */
export function fromVersion5(show: Part): Part {
  return {
    rehearsal: firstRehearsal,
    ...show,
    destinations: eachPart(show.destinations, (destination) => ({
      sending: firstSending,
      ...destination,
    })),
  }
}
