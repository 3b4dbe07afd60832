import { type Breach, type Send, sizesToOffer } from '@green-mantle/core/fit'
import {
  bitsPerPixel,
  bitsPerPixelWord,
  lowestLevel,
  pictureScore,
  scoreWord,
} from '@green-mantle/core/media'
import type { Destination, Rendition, Show, Size } from '@green-mantle/core/show'

/** Everything that Fit shows of one send. */
export interface FitRow {
  key: string
  send: Send
  destination: Destination
  rendition: Rendition
  level: string | null
  bitsPerPixel: number
  bitsPerPixelWord: string
  score: number
  scoreWord: string
  breaches: Breach[]
  sizes: Size[]
}

const sameSize = (a: Size, b: Size): boolean => a.width === b.width && a.height === b.height

/** One row a send, in the order of the destinations. */
export function fitRows(
  show: Show,
  { sends }: { sends: Send[] },
  breaches: readonly Breach[],
): FitRow[] {
  return sends.flatMap((send): FitRow[] => {
    const destination = show.destinations.find(({ id }) => id === send.destinationId)
    if (!destination) return []
    const { rendition } = send
    const score = pictureScore(rendition, show.pictureKind, destination.viewers[0] ?? 'desk')
    const bits = bitsPerPixel(rendition)
    const offered = sizesToOffer(destination.rules, show.canvasPair[destination.canvas])
    const isOffered = offered.some((size) => sameSize(size, rendition))
    return [
      {
        key: send.key,
        send,
        destination,
        rendition,
        level: lowestLevel(rendition),
        bitsPerPixel: bits,
        bitsPerPixelWord: bitsPerPixelWord(bits),
        score,
        scoreWord: scoreWord(score),
        breaches: breaches.filter(
          (breach) =>
            breach.destinationId === destination.id && breach.renditionId === rendition.id,
        ),
        sizes: isOffered ? offered : [rendition, ...offered],
      },
    ]
  })
}
