import { reportOf, type Arrival, type ArrivalReport } from '@green-mantle/core/arrival'
import type { StandInNow } from '@green-mantle/core/night'
import type { Destination, Show } from '@green-mantle/core/show'
import { performance } from 'node:perf_hooks'
import { flvArrival } from '../listeners/flvArrival'
import type { PublishedSink } from '../listeners/rtmpConnection'
import type { DatagramListener } from '../listeners/datagramListener'
import { listenSrt } from '../listeners/srtListener'
import { openWhipEndpoint } from '../listeners/whipEndpoint'
import { listenWhip, type WhipListener } from '../listeners/whipListener'
import { LocalIngest } from '../sender/localIngest'
import { StandInPlatform } from './platform'

interface Listened {
  address: string
  stop(): Promise<unknown>
}

interface Standing {
  platform: StandInPlatform
  /** Where it takes sends over SRT and WHIP, one program a port: one for each that is asked for. */
  overDatagrams: Map<string, Promise<Listened>>
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
const host = '127.0.0.1'
const firstSrtPort = 19_800
const firstWhipPort = 19_900
const firstWhipDatagramPort = 20_000
const mainSend = 'main'

/** Why a stand-in does not take a program with this key; null where it does. */
function refusalOf(showId: string, destinationId: string, key: string): string | null {
  const standings = shows.get(showId)
  const standing = standings?.get(destinationId)
  if (!standings || !standing) return 'there is no such place'
  for (const [otherId, other] of standings)
    if (otherId !== destinationId && [...other.coming.values()].some((each) => each.key === key))
      return `this key belongs to ${other.platform.destination.name}`
  return standing.platform.refusal(key)
}

/** A program that comes in is told from all others by the function that ends it. */
function came(standing: Standing, key: string, end: (why: string) => void): { went: () => void } {
  const self = Symbol(standing.platform.destination.name)
  standing.coming.set(self, { key, end })
  return {
    went() {
      standing.coming.delete(self)
      if (standing.coming.size === 0) standing.platform.signalWent()
    },
  }
}

/** Takes a program for the stand-in that its application names. */
function admit(app: string, key: string, end: (why: string) => void): PublishedSink | string {
  const [showId = '', destinationId = ''] = app.split(separator)
  const refusal = refusalOf(showId, destinationId, key)
  if (refusal !== null) return refusal
  const standing = shows.get(showId)?.get(destinationId) as Standing
  const { arrival, take } = flvArrival(clock)
  const { went } = came(standing, key, end)
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
    ended: went,
  }
}

/** What a listener of a stand-in tells it. */
function toldTo(
  showId: string,
  destinationId: string,
  listener: () => DatagramListener,
): { began: (arrival: Arrival, key: string) => void; ended: () => void } {
  let went: () => void = () => {}
  return {
    began(arrival, key) {
      const standing = shows.get(showId)?.get(destinationId)
      if (!standing) return listener().hangUp()
      went = came(standing, key, () => listener().hangUp()).went
      standing.arrival = arrival
      standing.platform.signalCame()
    },
    ended: () => went(),
  }
}

/** A port of a stand-in over SRT; who comes names the key as the stream ID. */
async function listenOverSrt(showId: string, destinationId: string): Promise<Listened> {
  const listener: DatagramListener = await listenSrt({
    ...{ host, clock, firstPort: firstSrtPort },
    watches: () => false,
    refusal: (key) => refusalOf(showId, destinationId, key),
    ...toldTo(showId, destinationId, () => listener),
  })
  return { address: `srt://${host}:${listener.port}`, stop: () => listener.stop() }
}

/** Where a stand-in is offered sends over WHIP; who comes brings the key as its token. */
async function listenOverWhip(showId: string, destinationId: string): Promise<Listened> {
  let broughtKey = ''
  const { began, ended } = toldTo(showId, destinationId, () => listener)
  const listener: WhipListener = await listenWhip({
    ...{ host, clock, firstPort: firstWhipDatagramPort, ended },
    watches: () => false,
    began: (arrival) => began(arrival, broughtKey),
  })
  const endpoint = await openWhipEndpoint({
    firstPort: firstWhipPort,
    listenerOf(key) {
      const refusal = refusalOf(showId, destinationId, key)
      if (refusal !== null) return refusal
      if (!listener.isArriving()) broughtKey = key
      return listener
    },
    listeners: () => [listener],
  })
  return {
    address: endpoint.address(host),
    stop: () => Promise.all([endpoint.close(), listener.stop()]),
  }
}

async function endDatagrams({ overDatagrams }: Standing): Promise<void> {
  const listened = [...overDatagrams.values()]
  overDatagrams.clear()
  for (const each of listened) await (await each.catch(() => null))?.stop()
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
              overDatagrams: known?.overDatagrams ?? new Map(),
              arrival: null,
            }
        return [destination.id, standing] as const
      }),
  )
  shows.delete(showId)
  shows.set(showId, standings)
  const gone = [...(before ?? [])].filter(([id]) => !standings.has(id)).map(([, each]) => each)
  const [oldest] = shows.keys()
  if (shows.size > maxShows && oldest !== undefined) {
    gone.push(...(shows.get(oldest)?.values() ?? []))
    shows.delete(oldest)
  }
  await Promise.all(gone.map(endDatagrams))
}

const pick = ({ name, rules, lagSeconds, protocol }: Destination) => ({
  ...{ name, rules, lagSeconds, protocol },
})

/** One stand-in; undefined where none stands in. */
export const standInOf = (showId: string, destinationId: string): StandInPlatform | undefined =>
  shows.get(showId)?.get(destinationId)?.platform

/** Where a stand-in takes sends; `send` tells those apart that a place takes at once (steps, a second ingest). */
export async function standInAddress(
  showId: string,
  destinationId: string,
  send = mainSend,
): Promise<string> {
  const standing = shows.get(showId)?.get(destinationId)
  const protocol = standing?.platform.destination.protocol
  if (!standing || (protocol !== 'srt' && protocol !== 'whip'))
    return (await openIngest()).addressOf(`${showId}${separator}${destinationId}`)
  const listen = protocol === 'srt' ? listenOverSrt : listenOverWhip
  const name = `${protocol} ${send}`
  const listened = standing.overDatagrams.get(name) ?? listen(showId, destinationId)
  standing.overDatagrams.set(name, listened)
  listened.catch(() => standing.overDatagrams.delete(name))
  return (await listened).address
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
  const standings = [...shows.values()].flatMap((each) => [...each.values()])
  shows.clear()
  await Promise.all(standings.map(endDatagrams))
  await (await ingest)?.close()
  ingest = undefined
}
