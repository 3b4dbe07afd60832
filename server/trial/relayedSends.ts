import {
  type CanvasEncodes,
  type EncodedOutput,
  fragmentMuxer,
  handedOver,
  handedOverMuxer,
} from '@green-mantle/core/encoding'
import type { ListenedSend } from '@green-mantle/core/arrival'
import type { Destination, Show } from '@green-mantle/core/show'
import { EncodeIngest } from '../sender/encodeIngest'
import { pictureOf, soundOf } from '../sender/publisher'
import { RelayedSend } from '../sender/relayedSend'

/** The sends of a trial that the encoder hands to the server, which sends them on itself. */
export interface RelayedSends {
  /** Where the encoder hands an output over; undefined for one that it sends by itself. */
  addressOf(output: EncodedOutput): string | undefined
  close(): Promise<void>
}

/** Over WHIP, and in a codec that the program does not put into what goes over RTMP. */
const isRelayed = ({ protocol, rendition }: EncodedOutput): boolean =>
  protocol === 'whip' ||
  (protocol !== 'srt' && protocol !== null && handedOverMuxer(rendition.codec) === fragmentMuxer)

/** A canvas as its encoder makes it: what is sent on by the server is handed over. */
export const asEncoded = (canvas: CanvasEncodes): CanvasEncodes => ({
  ...canvas,
  encodes: canvas.encodes.map(({ encode, outputs }) => ({
    encode,
    outputs: outputs.map((output) => (isRelayed(output) ? handedOver(output) : output)),
  })),
})

/** Begins those sends, each to its listener; those over RTMP `through` what stands on their way, where anything does. */
export async function beginRelayedSends(
  show: Show,
  canvases: readonly CanvasEncodes[],
  listeners: ReadonlyMap<string, ListenedSend>,
  through: string | null,
): Promise<RelayedSends> {
  const outputs = canvases.flatMap(({ encodes }) =>
    encodes.flatMap(({ outputs: own }) => own.filter(isRelayed)),
  )
  const ingest = outputs.length > 0 ? await EncodeIngest.open() : undefined
  const sends: RelayedSend[] = []
  const addresses = new Map<string, string>()
  for (const output of outputs) {
    const listener = listeners.get(output.key)
    const destination = show.destinations.find(({ id }) => id === output.feed.ownerId)
    if (!ingest || !listener?.address) continue
    const address = output.protocol === 'whip' ? listener.address : (through ?? listener.address)
    const send = new RelayedSend({
      sending: (destination as Destination).sending,
      plannedKbps: output.rendition.videoBitrateKbps + output.rendition.audioBitrateKbps,
      picture: pictureOf(output),
      sound: soundOf(output),
      ingest: () => Promise.resolve({ address, key: listener.streamKey }),
      told: () => {},
    })
    const handedTo = ingest.expectEncode(handedOver(output), () => {
      send.encoderBegan()
      return { packet: (packet) => send.take(packet), bytes: () => {}, ended: () => {} }
    })
    addresses.set(output.key, handedTo)
    sends.push(send)
    send.start()
  }
  return {
    addressOf: ({ key }) => addresses.get(key),
    async close() {
      for (const send of sends) send.stop()
      await ingest?.close()
    },
  }
}
