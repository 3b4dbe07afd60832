import { countEncodes } from '../media'
import { type UsableUpload, usableUpload, wireRateKbps } from '../network'
import type { CanvasName, Rendition, Show } from '../show'

/** One rendition going up the line to one destination. */
export interface Send {
  destinationId: string
  /** The destination's name; a ladder's further steps carry their number. */
  name: string
  canvas: CanvasName
  rendition: Rendition
  wireRateKbps: number
}

/** What the sends take, against what may be spent; rates in kb/s. */
export interface Budget {
  upload: UsableUpload
  sends: Send[]
  totalKbps: number
  /** Usable upload left; below zero by what the sends are too much. */
  spareKbps: number
  encodeCount: number
}

/** The sends of a show: one for each rendition of each destination that is on, in the order of the destinations. */
export function sendsOf(show: Pick<Show, 'destinations'>): Send[] {
  return show.destinations
    .filter((destination) => destination.on)
    .flatMap((destination) =>
      destination.renditions.map((rendition, index) => ({
        destinationId: destination.id,
        name: index === 0 ? destination.name : `${destination.name} ${index + 1}`,
        canvas: destination.canvas,
        rendition,
        wireRateKbps: wireRateKbps(rendition, destination.protocol),
      })),
    )
}

/** Adds up what all sends take and holds it against the usable upload. */
export function budgetOf(show: Pick<Show, 'destinations' | 'line'>): Budget {
  const upload = usableUpload(show.line)
  const sends = sendsOf(show)
  const totalKbps = sends.reduce((sum, send) => sum + send.wireRateKbps, 0)
  return {
    upload,
    sends,
    totalKbps,
    spareKbps: upload.usableKbps - totalKbps,
    encodeCount: countEncodes(show.destinations.filter((destination) => destination.on)),
  }
}
