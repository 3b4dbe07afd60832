import { type CanvasEncodes, type EncodedOutput, handedOver } from '@green-mantle/core/encoding'
import { sentFromHere } from '@green-mantle/core/media'
import type { CanvasInput } from '@green-mantle/core/night'
import { codecNames, listInWords, protocolNames } from '@green-mantle/core/words'

/** Why an output cannot be sent from here; empty where it can, and for a recording. */
export function cannotFrom({
  protocol,
  rendition: { codec },
}: Pick<EncodedOutput, 'protocol' | 'rendition'>): string {
  if (protocol === null || sentFromHere[protocol].some((each) => each === codec)) return ''
  const others = listInWords(
    sentFromHere[protocol].map((each) => codecNames[each]),
    'or',
  )
  const [name, over] = [codecNames[codec], protocolNames[protocol]]
  return `${name} does not go out over ${over} from here: plan it with ${others}`
}

/** The encodes of a canvas as they are handed on; what can't be sent from here is not encoded for nothing. */
export const handedOn = (encodes: CanvasEncodes, input: CanvasInput): CanvasEncodes => ({
  ...encodes,
  encodes: encodes.encodes
    .map(({ encode, outputs }) => ({
      encode,
      outputs: outputs
        .filter((output) => cannotFrom(output) === '')
        .map((output) => ({
          ...(output.feed.isRecording ? output : handedOver(output)),
          // One program has one sound to give.
          isArchiveMix: output.isArchiveMix && input !== 'own program',
        })),
    }))
    .filter(({ outputs }) => outputs.length > 0),
})
