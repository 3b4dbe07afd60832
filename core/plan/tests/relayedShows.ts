import { uniformInt } from 'pure-rand/distribution/uniformInt'
import { mersenne } from 'pure-rand/generator/mersenne'
import { type Destination, newDestination } from '../../show'
import type { PlannedShow } from '../problem/renditionRequests'

/**
 * A show with two or three relays more, on both canvases, that take and feed different things; most of
 * its destinations may be fed by any of them, and some are set to one. Its line is shorter, so that
 * relays are worth it. The same seed makes the same of a show.
 */
export function withRelays<S extends PlannedShow>(show: S, seed: number): S {
  const generator = mersenne(seed)
  const whole = (from: number, to: number): number => uniformInt(generator, from, to)
  const pick = <T>(list: readonly T[]): T => list[whole(0, list.length - 1)] as T
  const chance = (percent: number): boolean => whole(1, 100) <= percent
  let last = 0
  const id = (): string => `relay-${(last += 1)}`

  const bitrates = show.destinations.map(({ rules }) => rules.mostVideoBitrateKbps)
  const sounds = show.destinations.map(({ renditions }) => renditions[0]!.audioBitrateKbps)
  const relays = Array.from({ length: whole(2, 3) }, (_, index): Destination => {
    const relay = newDestination(id, `Relay ${index}`, chance(65) ? 'landscape' : 'vertical')
    const mostVideoBitrateKbps = pick(bitrates)
    return {
      ...relay,
      connection: 'relay',
      protocol: pick(['srt', 'rtmp', 'rtmps']),
      backupAddress: chance(15) ? 'rtmp://backup.example/live' : null,
      rules: {
        ...relay.rules,
        mostFed: pick([1, 2, 2, 3, 5]),
        codecs: pick([['h264' as const], ['h264' as const, 'hevc' as const]]),
        leastVideoBitrateKbps: pick([null, null, mostVideoBitrateKbps / 2]),
        mostVideoBitrateKbps,
      },
      renditions: relay.renditions.map((rendition) => ({
        ...rendition,
        audioBitrateKbps: pick(sounds),
        pins: chance(20) ? [pick(['size', 'frame rate', 'video bitrate'] as const)] : [],
      })),
    }
  })
  const reached = show.destinations.map((destination): Destination => {
    const own = relays.filter(({ canvas }) => canvas === destination.canvas)
    if (destination.connection === 'relay' || own.length === 0 || chance(20)) return destination
    const { renditions, plan } = destination
    return {
      ...destination,
      relayId: chance(50) ? pick(own).id : destination.relayId,
      plan: { ...plan, routePinned: chance(25) },
      renditions: renditions.map((rendition) => ({
        ...rendition,
        audioBitrateKbps: chance(60)
          ? pick(own).renditions[0]!.audioBitrateKbps
          : rendition.audioBitrateKbps,
      })),
    }
  })
  const share = whole(35, 100) / 100
  return {
    ...show,
    destinations: chance(50) ? [...reached, ...relays] : [...relays, ...reached],
    lines: show.lines.map((line) => ({
      ...line,
      samples: line.samples.map((sample) => ({
        ...sample,
        uploadKbps: Math.round(sample.uploadKbps * share),
      })),
    })),
  }
}
