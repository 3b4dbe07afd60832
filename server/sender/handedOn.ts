import { type CanvasEncodes, type EncodedOutput, handedOver } from '@green-mantle/core/encoding'
import type { CanvasInput } from '@green-mantle/core/night'

/** Why an output cannot be sent from here; empty where it can. Every encode comes to the server as FLV. */
export const cannotFrom = ({ rendition }: EncodedOutput): string =>
  rendition.codec === 'h264'
    ? ''
    : 'the encoder program here hands only H.264 on to be sent: plan it with H.264'

/** The encodes of a canvas as they are handed on; what can't be sent from here is not encoded for nothing. */
export const handedOn = (encodes: CanvasEncodes, input: CanvasInput): CanvasEncodes => ({
  ...encodes,
  encodes: encodes.encodes
    .map(({ encode, outputs }) => ({
      encode,
      outputs: outputs
        .filter((output) => output.feed.isRecording || cannotFrom(output) === '')
        .map((output) => ({
          ...(output.feed.isRecording ? output : handedOver(output)),
          // One program has one sound to give.
          isArchiveMix: output.isArchiveMix && input !== 'own program',
        })),
    }))
    .filter(({ outputs }) => outputs.length > 0),
})
