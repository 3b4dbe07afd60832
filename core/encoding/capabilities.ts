import { type Codec, codecs, type Protocol, protocols } from '../show'
import { sentFromHere } from '../media'
import { handedOverMuxer, muxers } from './programTables'

/** One try: what was encoded into which muxer, and what was found when it was read again. */
export interface CarryTry {
  codec: Codec
  muxer: string
  readBackAs: string | null
}

/** What can be sent with an encoder program, from tries of every codec in every muxer. */
export function carriesOf(tries: readonly CarryTry[]): Record<Protocol, Codec[]> {
  const isPutInto = (codec: Codec, muxer: string): boolean =>
    tries.some((each) => each.codec === codec && each.muxer === muxer && each.readBackAs === codec)
  const isSent = (protocol: Protocol, codec: Codec): boolean =>
    sentFromHere[protocol].some((each) => each === codec) &&
    isPutInto(codec, handedOverMuxer(codec)) &&
    // Its transport stream is the program's as well.
    (protocol !== 'srt' || isPutInto(codec, muxers.srt))
  return Object.fromEntries(
    protocols.map((protocol) => [protocol, codecs.filter((codec) => isSent(protocol, codec))]),
  ) as Record<Protocol, Codec[]>
}
