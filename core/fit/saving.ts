import { encodedPictureOf, judgedOn, pictureScore } from '../media'
import { wireRateKbps } from '../network'
import { type Destination, type Rendition, type Show } from '../show'
import { type Budget, budgetOf } from './budget'

/** Bitrates are chosen in steps of this. */
export const bitrateStepKbps = 50

/** A way to bring the sends back under the usable upload by changing one of them. */
export interface Saving {
  destinationId: string
  renditionId: string
  name: string
  /** null means that the destination would have to be switched off. */
  toVideoBitrateKbps: number | null
  scoreBefore: number
  scoreAfter: number
}

/** The highest bitrate, in steps, at which this send takes at most `maxWireKbps`; null where even the least is too much. */
function bitrateForWireRate(
  destination: Destination,
  rendition: Rendition,
  maxWireKbps: number,
): number | null {
  const least = destination.rules.leastVideoBitrateKbps ?? bitrateStepKbps
  const wire = (videoBitrateKbps: number): number =>
    wireRateKbps({ ...rendition, videoBitrateKbps }, destination.protocol, destination.path)
  let steps = Math.floor((rendition.videoBitrateKbps - least) / bitrateStepKbps)
  let low = 0
  if (steps < 0 || wire(least) > maxWireKbps) return null
  while (low < steps) {
    const middle = Math.ceil((low + steps) / 2)
    if (wire(least + middle * bitrateStepKbps) <= maxWireKbps) low = middle
    else steps = middle - 1
  }
  return least + low * bitrateStepKbps
}

/**
 * Every single change that would make a show fit that is too much, the one that costs the fewest
 * points of picture score first. A send is lowered to the highest bitrate that fits, or switched
 * off where lowering it is not enough. Empty where the show fits, or where no one send can save
 * that much.
 */
export function savingsOf(
  show: Pick<
    Show,
    'destinations' | 'recordings' | 'lines' | 'lineId' | 'pictureKind' | 'ownPicture' | 'computer'
  >,
  budget: Budget = budgetOf(show),
): Saving[] {
  const excessKbps = -budget.spareKbps
  if (excessKbps <= 0) return []
  return budget.sends
    .filter((send) => !send.isBackup)
    .flatMap((send): Saving[] => {
      const destination = show.destinations.find(({ id }) => id === send.destinationId)
      if (!destination) return []
      const step = destination.renditions.indexOf(send.rendition)
      const screen = judgedOn(destination.viewers, step)
      const scoreBefore = pictureScore(send.rendition, encodedPictureOf(show), screen)
      const base = {
        destinationId: send.destinationId,
        renditionId: send.rendition.id,
        name: send.name,
        scoreBefore,
      }
      // A backup ingest gets the same, so that what is saved is saved twice.
      const timesSent = budget.sends.filter(
        ({ destinationId, rendition }) =>
          destinationId === destination.id && rendition.id === send.rendition.id,
      ).length
      const lowered = bitrateForWireRate(
        destination,
        send.rendition,
        send.wireRateKbps - excessKbps / timesSent,
      )
      if (lowered !== null) {
        const rendition = { ...send.rendition, videoBitrateKbps: lowered }
        const scoreAfter = pictureScore(rendition, encodedPictureOf(show), screen)
        return [{ ...base, toVideoBitrateKbps: lowered, scoreAfter }]
      }
      const wholeDestinationKbps = budget.sends
        .filter(({ destinationId }) => destinationId === destination.id)
        .reduce((sum, { wireRateKbps: rate }) => sum + rate, 0)
      if (wholeDestinationKbps < excessKbps) return []
      return [{ ...base, toVideoBitrateKbps: null, scoreAfter: 0 }]
    })
    .sort((a, b) => a.scoreBefore - a.scoreAfter - (b.scoreBefore - b.scoreAfter))
}
