import { tcpCeilingKbps } from '../network'
import type { Show } from '../show'
import { sendsOf } from './budget'

/** What one TCP connection carries to a destination, against what is sent there; rates in kb/s. */
export interface PathCeiling {
  destinationId: string
  name: string
  roundTripMilliseconds: number
  lossPercent: number
  /** null where nothing is lost, so that the formula sets no limit. */
  ceilingKbps: number | null
  sentKbps: number
  fits: boolean
}

const tcpProtocols: readonly string[] = ['rtmp', 'rtmps']

/** The ceiling of each send over TCP whose round trip and loss are known, the tightest first. */
export function pathCeilings(show: Pick<Show, 'destinations'>): PathCeiling[] {
  return sendsOf(show)
    .flatMap((send): PathCeiling[] => {
      const destination = show.destinations.find(({ id }) => id === send.destinationId)
      if (!destination || send.isBackup || !tcpProtocols.includes(destination.protocol)) return []
      const { roundTripMilliseconds, lossPercent } = destination.path
      if (roundTripMilliseconds === null || lossPercent === null) return []
      const ceiling = tcpCeilingKbps(roundTripMilliseconds, lossPercent)
      return [
        {
          destinationId: destination.id,
          name: send.name,
          roundTripMilliseconds,
          lossPercent,
          ceilingKbps: Number.isFinite(ceiling) ? ceiling : null,
          sentKbps: send.wireRateKbps,
          fits: send.wireRateKbps <= ceiling,
        },
      ]
    })
    .sort((a, b) => (a.ceilingKbps ?? Infinity) - (b.ceilingKbps ?? Infinity))
}
