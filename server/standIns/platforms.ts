import { reportOf, type Arrival, type ArrivalReport } from '@green-mantle/core/arrival'
import type { StandInNow } from '@green-mantle/core/night'
import type { Destination, Show } from '@green-mantle/core/show'
import { performance } from 'node:perf_hooks'
import { flvArrival } from '../listeners/flvArrival'
import type { PublishedSink } from '../listeners/rtmpConnection'
import { LocalIngest } from '../sender/localIngest'
import { StandInPlatform } from './platform'

interface Standing {
  platform: StandInPlatform
  /** What comes in now, each with what ends it. */
  coming: Map<symbol, { key: string; end: (why: string) => void }>
  arrival: Arrival | null
}

/** Stand-ins of this many shows at most; the oldest go first. */
const maxShows = 20
const shows = new Map<string, Map<string, Standing>>()
let ingest: Promise<LocalIngest> | undefined

const clock = (): number => performance.now() / 1000
const separator = '~'

/** Takes a program for the stand-in that its application names. */
function admit(app: string, key: string, end: (why: string) => void): PublishedSink | string {
  const [showId = '', destinationId = ''] = app.split(separator)
  const standings = shows.get(showId)
  const standing = standings?.get(destinationId)
  if (!standings || !standing) return 'there is no such place'
  for (const [otherId, other] of standings)
    if (otherId !== destinationId && [...other.coming.values()].some((each) => each.key === key))
      return `this key belongs to ${other.platform.destination.name}`
  const refusal = standing.platform.refusal(key)
  if (refusal !== null) return refusal
  const { arrival, take } = flvArrival(clock)
  const self = Symbol(destinationId)
  standing.coming.set(self, { key, end })
  standing.arrival = arrival
  let hasPicture = false
  return {
    bytes: () => {},
    packet(packet) {
      take(packet)
      if (hasPicture || arrival.frames.length === 0) return
      hasPicture = true
      standing.platform.signalCame()
    },
    ended() {
      standing.coming.delete(self)
      if (standing.coming.size === 0) standing.platform.signalWent()
    },
  }
}

const openIngest = (): Promise<LocalIngest> => (ingest ??= LocalIngest.open(admit))

/** Lets a platform stand in for every destination of a show that is on; what stands already goes on. */
export async function standInFor(showId: string, show: Show): Promise<void> {
  await openIngest()
  const before = shows.get(showId)
  const standings = new Map(
    show.destinations
      .filter(({ on }) => on)
      .map((destination) => {
        const known = before?.get(destination.id)
        const isSame =
          known && JSON.stringify(known.platform.destination) === JSON.stringify(pick(destination))
        const standing: Standing = isSame
          ? known
          : {
              platform: new StandInPlatform(pick(destination)),
              coming: known?.coming ?? new Map(),
              arrival: null,
            }
        return [destination.id, standing] as const
      }),
  )
  shows.delete(showId)
  shows.set(showId, standings)
  const [oldest] = shows.keys()
  if (shows.size > maxShows && oldest !== undefined) shows.delete(oldest)
}

const pick = ({ name, rules, lagSeconds }: Destination) => ({ name, rules, lagSeconds })

/** One stand-in; undefined where none stands in. */
export const standInOf = (showId: string, destinationId: string): StandInPlatform | undefined =>
  shows.get(showId)?.get(destinationId)?.platform

/** Where a stand-in takes sends. */
export async function standInAddress(showId: string, destinationId: string): Promise<string> {
  return (await openIngest()).addressOf(`${showId}${separator}${destinationId}`)
}

/** Hangs up on whoever sends to it. */
export function hangUp(showId: string, destinationId: string): void {
  for (const { end } of shows.get(showId)?.get(destinationId)?.coming.values() ?? [])
    end('it hung up')
}

/** What comes in to a stand-in. */
export function arrivingAt(showId: string, destinationId: string): ArrivalReport | null {
  const standing = shows.get(showId)?.get(destinationId)
  return standing?.arrival ? reportOf(standing.arrival, clock()) : null
}

/** How every stand-in of a show is. A chat that can be read only on its page is not among it. */
export const standInsNow = (showId: string): StandInNow[] =>
  [...(shows.get(showId) ?? [])].map(([destinationId, { platform }]) => {
    // Its key is pasted by hand, as from any page.
    const { key: _, ...state } = platform.state()
    const isReadable = platform.destination.rules.chat === 'readable elsewhere'
    return { destinationId, ...state, chat: isReadable ? platform.chat() : [] }
  })

export async function closeStandIns(): Promise<void> {
  shows.clear()
  await (await ingest)?.close()
  ingest = undefined
}
