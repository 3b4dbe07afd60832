import { encodesOf } from './encodes'
import { usableUploadOf } from './usable'
import { type UsableUpload, wireRateKbps } from '../network'
import { type CanvasName, type Destination, type Rendition, sentDirectly, type Show } from '../show'

/** One rendition going up the line to one destination. */
export interface Send {
  /** Its own among the sends of a show. */
  key: string
  destinationId: string
  /** The destination's name; a ladder's further steps carry their number. */
  name: string
  /** Whether it goes to the second ingest, with the same encode. */
  isBackup: boolean
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

/** A ladder's further steps carry their number. */
const sendName = (destination: Destination, index: number): string =>
  index === 0 ? destination.name : `${destination.name} ${index + 1}`

/**
 * The sends of a show: one for each rendition of each destination that is sent to from here, in the
 * order of the destinations, and a second of each where a backup ingest is used as well.
 */
export function sendsOf(show: Pick<Show, 'destinations'>): Send[] {
  return sentDirectly(show.destinations).flatMap((destination) =>
    [false, true]
      .filter((isBackup) => !isBackup || destination.backupAddress !== null)
      .flatMap((isBackup) =>
        destination.renditions.map((rendition, index) => ({
          key: `${destination.id} ${rendition.id}${isBackup ? ' backup' : ''}`,
          destinationId: destination.id,
          name: `${sendName(destination, index)}${isBackup ? ' backup' : ''}`,
          isBackup,
          canvas: destination.canvas,
          rendition,
          wireRateKbps: wireRateKbps(rendition, destination.protocol, destination.path),
        })),
      ),
  )
}

/** Adds up what all sends take and holds it against the usable upload. */
export function budgetOf(
  show: Pick<Show, 'destinations' | 'recordings' | 'lines' | 'lineId'>,
): Budget {
  const upload = usableUploadOf(show)
  const sends = sendsOf(show)
  const totalKbps = sends.reduce((sum, send) => sum + send.wireRateKbps, 0)
  return {
    upload,
    sends,
    totalKbps,
    spareKbps: upload.usableKbps - totalKbps,
    encodeCount: encodesOf(show).length,
  }
}
