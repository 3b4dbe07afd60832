import type { Codec, Device, Effort, OwnPicture, Picture, PictureChoice } from '../show'
import { pictureOf } from '../show'
import { nearestKindOf } from './pictureModel'
import {
  codecEfficiency,
  effortEfficiency,
  enoughLookAheadFrames,
  lookAheadSaving,
} from './pictureScoreTables'

type Devices = readonly Pick<Device, 'id' | 'kind' | 'throughputs'>[]

/** A picture and the devices that encode it, of which it may have been measured what they get out of a bit. */
export interface EncodedPicture {
  picture: Picture
  devices: Devices
}
/** What is scored: a picture as the tables' encoders make it, or as those of a computer do. */
export type ScoredPicture = Picture | EncodedPicture

/** A show's picture as its own computer encodes it. */
export const encodedPictureOf = (show: {
  pictureKind: PictureChoice
  ownPicture: OwnPicture | null
  computer: { devices: Devices }
}): EncodedPicture => ({ picture: pictureOf(show), devices: show.computer.devices })

const isEncoded = (scored: ScoredPicture): scored is EncodedPicture =>
  typeof scored !== 'string' && 'devices' in scored

/** The picture alone. */
export const pictureIn = (scored: ScoredPicture): Picture =>
  isEncoded(scored) ? scored.picture : scored

export interface Encoding {
  codec: Codec
  effort: Effort
  /** Where it is not said, its look-ahead is enough and its device one of the tables'. */
  encoder?: { lookAheadFrames: number; deviceId?: string | null }
  /** What it was measured to get out of a bit, where the device is not said. */
  efficiency?: number | undefined
}

/** What a device was measured to get out of a bit at a codec and effort; undefined where it was not. */
export const measuredEfficiency = (
  { throughputs }: Pick<Device, 'throughputs'>,
  { codec, effort }: Pick<Encoding, 'codec' | 'effort'>,
): number | undefined =>
  throughputs.find((each) => each.codec === codec && each.effort === effort)?.efficiency

/** What a codec gets out of a bit by the tables, with H.264 as 1. */
export const codecEfficiencyOf = (codec: Codec): number => codecEfficiency[codec]

const tableEfficiency = ({ codec, effort }: Pick<Encoding, 'codec' | 'effort'>): number =>
  codecEfficiency[codec] * effortEfficiency[codec][effort]

/**
 * What was measured counts from H.264 at its finest; a picture of one's own from the encodes that it was
 * measured by, which stand at the tables' value of their effort. By this factor the one becomes the other.
 */
function anchorOf({ picture, devices }: EncodedPicture): number {
  if (typeof picture === 'string') return 1
  const made = { codec: 'h264', effort: picture.effort } as const
  const processor = devices.find(({ kind }) => kind === 'processor')
  const measured = processor && measuredEfficiency(processor, made)
  return measured === undefined ? 1 : tableEfficiency(made) / measured
}

/**
 * What an encode gets out of a bit, with software H.264 at its finest and with look-ahead as 1: as it was
 * measured on its device, or by the tables.
 */
export function efficiencyOf(encoding: Encoding, scored: ScoredPicture): number {
  const { codec, encoder } = encoding
  const device =
    isEncoded(scored) && encoder?.deviceId
      ? scored.devices.find(({ id }) => id === encoder.deviceId)
      : undefined
  const measured = encoding.efficiency ?? (device && measuredEfficiency(device, encoding))
  const efficiency =
    measured === undefined
      ? tableEfficiency(encoding)
      : measured * (isEncoded(scored) ? anchorOf(scored) : 1)
  if (codec !== 'h264' || !encoder) return efficiency
  const missing = Math.max(0, 1 - encoder.lookAheadFrames / enoughLookAheadFrames)
  return efficiency * (1 - lookAheadSaving[nearestKindOf(pictureIn(scored))] * missing)
}
