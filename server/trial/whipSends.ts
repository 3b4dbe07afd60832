import { type CanvasEncodes, type EncodedOutput, handedOver } from '@green-mantle/core/encoding'
import type { ListenedSend } from '@green-mantle/core/arrival'
import type { Destination, Show } from '@green-mantle/core/show'
import { LocalIngest } from '../sender/localIngest'
import { soundOf } from '../sender/publisher'
import { RelayedSend } from '../sender/relayedSend'

const application = 'trial'

/** The sends of a trial that the encoder hands to the server, which sends them on over WHIP itself. */
export interface WhipSends {
  /** Where the encoder hands an output over; undefined for one that it sends by itself. */
  addressOf(output: EncodedOutput): string | undefined
  close(): Promise<void>
}

const isOverWhip = ({ muxer }: EncodedOutput): boolean => muxer === 'whip'

/** A canvas as its encoder makes it: what goes over WHIP is handed over. */
export const asEncoded = (canvas: CanvasEncodes): CanvasEncodes => ({
  ...canvas,
  encodes: canvas.encodes.map(({ encode, outputs }) => ({
    encode,
    outputs: outputs.map((output) => (isOverWhip(output) ? handedOver(output) : output)),
  })),
})

/** Begins those sends, each to its listener. */
export async function beginWhipSends(
  show: Show,
  canvases: readonly CanvasEncodes[],
  listeners: ReadonlyMap<string, ListenedSend>,
): Promise<WhipSends> {
  const outputs = canvases.flatMap(({ encodes }) =>
    encodes.flatMap(({ outputs: own }) => own.filter(isOverWhip)),
  )
  const local = outputs.length > 0 ? await LocalIngest.open() : undefined
  const sends: RelayedSend[] = []
  const addresses = new Map<string, string>()
  for (const output of outputs) {
    const listener = listeners.get(output.key)
    const destination = show.destinations.find(({ id }) => id === output.feed.ownerId)
    if (!local || !listener?.address) continue
    const { address, streamKey: key } = listener
    const send = new RelayedSend({
      sending: (destination as Destination).sending,
      plannedKbps: output.rendition.videoBitrateKbps + output.rendition.audioBitrateKbps,
      sound: soundOf(output),
      ingest: () => Promise.resolve({ address, key }),
      told: () => {},
    })
    const ownKey = local.expect(() => {
      send.encoderBegan()
      return { packet: (packet) => send.take(packet), bytes: () => {}, ended: () => {} }
    })
    addresses.set(output.key, `${local.addressOf(application)}/${ownKey}`)
    sends.push(send)
    send.start()
  }
  return {
    addressOf: ({ key }) => addresses.get(key),
    async close() {
      for (const send of sends) send.stop()
      await local?.close()
    },
  }
}
