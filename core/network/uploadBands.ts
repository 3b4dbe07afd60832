import type { UsableUpload } from './usableUpload'

/** A band thinner than this share of what was measured has no room for its name. */
const minNamedShare = 0.1
/** How far the scale goes above the highest value. */
const scaleMargin = 1.05
/** kb/s that the scale goes up to at least. */
const minScaleKbps = 1000

/** What is done with a part of the measured upload, as shares of a scale, 0 to 1. */
export interface UploadBand {
  name: 'headroom' | 'room for peaks' | 'other traffic' | 'usable'
  from: number
  height: number
  isNamed: boolean
}

/** The top of a scale, in whole Mb/s, on which measurements (kb/s) and what is sent (kb/s) have room. */
export const uploadScaleMbps = (ratesKbps: readonly number[], totalKbps: number): number =>
  Math.ceil((Math.max(minScaleKbps, totalKbps, ...ratesKbps) / 1000) * scaleMargin)

/** A rate as a share of a scale, no less than 0 and no more than 1. */
export const shareOfScale = (kbps: number, maxKbps: number): number =>
  Math.min(1, Math.max(0, kbps / maxKbps))

/** How the measured upload is shared out: the headroom on top, below it what peaks need beyond it, other traffic, and what is usable. */
export function uploadBands(upload: UsableUpload, maxKbps: number): UploadBand[] {
  const { measuredKbps, headroomKbps, usableKbps, peaksBeyondHeadroomKbps } = upload
  const headroomFromKbps = measuredKbps - headroomKbps
  const peaksFromKbps = headroomFromKbps - peaksBeyondHeadroomKbps
  const band = (name: UploadBand['name'], fromKbps: number, toKbps: number): UploadBand => ({
    name,
    from: shareOfScale(fromKbps, maxKbps),
    height: shareOfScale(toKbps - fromKbps, maxKbps),
    isNamed: toKbps - fromKbps > measuredKbps * minNamedShare,
  })
  return [
    band('headroom', headroomFromKbps, measuredKbps),
    ...(peaksBeyondHeadroomKbps > 0
      ? [band('room for peaks', peaksFromKbps, headroomFromKbps)]
      : []),
    band('other traffic', usableKbps, peaksFromKbps),
    band('usable', 0, usableKbps),
  ]
}
