import { performance } from 'node:perf_hooks'
import type { EncodedOutput } from '@green-mantle/core/encoding'
import { nanoid } from 'nanoid'
import { missingProgram, systemPrograms } from '../programs/systemPrograms'
import type { DatagramListener } from './datagramListener'
import { listenSrt } from './srtListener'
import { listenWhip, type WhipListener } from './whipListener'

const host = '127.0.0.1'
const firstPorts = { srt: 19_400, whip: 19_700 } as const
/** Each takes a process while it comes in. */
const maxSends = 12
const clock = (): number => performance.now() / 1000

export type DatagramProtocol = keyof typeof firstPorts
const protocolNames = { srt: 'SRT', whip: 'WHIP' } as const satisfies Record<
  DatagramProtocol,
  string
>

/** One send that comes in as datagrams. */
export type DatagramSend = { output: EncodedOutput; streamKey: string } & (
  | { protocol: 'srt'; listener: DatagramListener }
  | { protocol: 'whip'; listener: WhipListener }
)

export interface DatagramSendOptions {
  watches: () => boolean
  keeps: () => boolean
  /** Whether a datagram of this send gets through, and when. */
  pass: (streamKey: string, bytes: number) => Promise<boolean>
  /** Told of a key that is not that of the send; why it is not taken. */
  refusedStranger: (key: string) => string
}

/** The protocol by which an output comes in as datagrams; null where it does by another. */
export function datagramProtocolOf({ muxer }: EncodedOutput): DatagramProtocol | null {
  if (muxer === 'mpegts') return 'srt'
  return muxer === 'whip' ? 'whip' : null
}

/** Why one more send over a protocol is not listened to; null where it is. */
export function whyNotListened(
  protocol: DatagramProtocol,
  sends: Iterable<DatagramSend>,
): string | null {
  const same = [...sends].filter((send) => send.protocol === protocol)
  return (
    missingProgram(systemPrograms.encoder) ??
    (same.length >= maxSends
      ? `At most ${maxSends} sends over ${protocolNames[protocol]} are listened to at once.`
      : null)
  )
}

/** A listener for one send; the key stands where SRT has its stream ID, and WHIP its bearer token. */
export async function listenForSend(
  protocol: DatagramProtocol,
  output: EncodedOutput,
  { watches, keeps, pass, refusedStranger }: DatagramSendOptions,
): Promise<DatagramSend> {
  const streamKey = nanoid(16)
  const common = {
    ...{ host, clock, firstPort: firstPorts[protocol], watches },
    keeps: () => (keeps() ? output.rendition.framesPerSecond : null),
    pass: (bytes: number) => pass(streamKey, bytes),
  }
  if (protocol === 'whip')
    return { output, streamKey, protocol, listener: await listenWhip(common) }
  const listener = await listenSrt({
    ...common,
    refusal: (streamId) => (streamId === streamKey ? null : refusedStranger(streamId)),
  })
  return { output, streamKey, protocol, listener }
}
