import { codecNames, listInWords, protocolNames } from '../words'
import { type Codec, type Computer, type Destination, isTaken, type Show } from '../show'

/**
 * Whether the encoder program of this computer can put a codec into what goes to a destination. Where
 * it was not asked, and where it has no way at all to send there (another program does), nothing is ruled out.
 */
export function isCarried(
  { measured }: Pick<Computer, 'measured'>,
  { connection, protocol }: Pick<Destination, 'connection' | 'protocol'>,
  codec: Codec,
): boolean {
  if (!measured || connection === 'hand-off') return true
  const carried = measured.carries[protocol]
  return carried.length === 0 || carried.includes(codec)
}

type CarryingShow = Pick<Show, 'destinations' | 'computer'>

/** The first send that is set to a codec which the encoder program cannot send there; undefined where there is none. */
export const firstNotCarried = ({
  destinations,
  computer,
}: CarryingShow): { destination: Destination; codec: Codec } | undefined =>
  destinations
    .filter(isTaken)
    .flatMap((destination) => destination.renditions.map(({ codec }) => ({ destination, codec })))
    .find(({ destination, codec }) => !isCarried(computer, destination, codec))

/** What the encoder program costs: codecs that a destination takes and some device makes, but that it cannot send there. */
export function programLimitsInWords({ destinations, computer }: CarryingShow): string[] {
  const { measured } = computer
  if (!measured) return []
  const made = new Set(
    computer.devices.flatMap(({ throughputs }) => throughputs.map(({ codec }) => codec)),
  )
  return destinations.filter(isTaken).flatMap((destination) => {
    const lost = destination.rules.codecs.filter(
      (codec) => made.has(codec) && !isCarried(computer, destination, codec),
    )
    if (lost.length === 0) return []
    const names = listInWords(lost.map((codec) => codecNames[codec]))
    return [
      `${destination.name} takes ${names}, but ${measured.program} cannot send that over ${protocolNames[destination.protocol]}.`,
    ]
  })
}
