import { peakShare, spareUploadKbps, type UsableUpload, usableUpload } from '../network'
import { lineOf, type Show } from '../show'

type ShowOnALine = Pick<Show, 'destinations' | 'lines' | 'lineId'>

/**
 * The peak share of the burstiest rendition that may go up the line, left out by a plan or not: what
 * a plan may spend must not hang on whom it leaves out.
 */
function sendsPeakShare({ destinations }: ShowOnALine): number {
  const shares = destinations
    .filter(({ on, connection }) => on && connection !== 'hand-off')
    .flatMap(({ renditions }) => renditions)
    .map(({ encoder }) => peakShare(encoder.rateControl))
  return Math.max(peakShare('constant'), ...shares)
}

/** What a show may spend of its line, with room for the peaks of its sends. */
export const usableUploadOf = (show: ShowOnALine): UsableUpload =>
  usableUpload(lineOf(show), sendsPeakShare(show))

/** The same, kb/s, below zero where other traffic alone takes more than there is. */
export const spareUploadOf = (show: ShowOnALine): number =>
  spareUploadKbps(lineOf(show), sendsPeakShare(show))

/** How much other traffic, kb/s, would have to go from the line for so many kb/s more to be spent. */
export function trafficToFreeKbps(show: ShowOnALine, moreKbps: number): number {
  const spareKbps = spareUploadOf(show)
  const { measuredKbps, headroomKbps, otherTrafficKbps } = usableUploadOf(show)
  const wantedKbps = spareKbps + moreKbps
  const withPeaksKbps = wantedKbps * (1 + sendsPeakShare(show))
  return Math.max(wantedKbps + headroomKbps, withPeaksKbps) + otherTrafficKbps - measuredKbps
}
