import type { Codec, Rendition } from '../show'
import { av1Levels, h264Levels, hevcLevels } from './levelTables'

export type EncodedPicture = Pick<
  Rendition,
  'width' | 'height' | 'framesPerSecond' | 'codec' | 'videoBitrateKbps'
>

const macroblockPixels = 16
/** The High profile may spend this many times the Main profile's bitrate (ITU-T H.264, Table A-2: cpbBrVclFactor 1250 to 1000). */
const highProfileBitrateFactor = 1.25

function admitsH264(row: (typeof h264Levels)[number], picture: EncodedPicture): boolean {
  const across = Math.ceil(picture.width / macroblockPixels)
  const down = Math.ceil(picture.height / macroblockPixels)
  const longestSide = Math.floor(Math.sqrt(8 * row.macroblocks))
  return (
    across * down <= row.macroblocks &&
    across <= longestSide &&
    down <= longestSide &&
    across * down * picture.framesPerSecond <= row.macroblocksPerSecond &&
    picture.videoBitrateKbps <= row.bitrateKbps * highProfileBitrateFactor
  )
}

function admitsHevc(row: (typeof hevcLevels)[number], picture: EncodedPicture): boolean {
  const samples = picture.width * picture.height
  const longestSide = Math.floor(Math.sqrt(8 * row.samples))
  return (
    samples <= row.samples &&
    picture.width <= longestSide &&
    picture.height <= longestSide &&
    samples * picture.framesPerSecond <= row.samplesPerSecond &&
    picture.videoBitrateKbps <= row.bitrateKbps
  )
}

function admitsAv1(row: (typeof av1Levels)[number], picture: EncodedPicture): boolean {
  const samples = picture.width * picture.height
  return (
    samples <= row.samples &&
    picture.width <= row.width &&
    picture.height <= row.height &&
    samples * picture.framesPerSecond <= row.samplesPerSecond &&
    picture.videoBitrateKbps <= row.bitrateKbps
  )
}

/**
 * The lowest level of the codec's own table that admits size (pixels), frame rate and bitrate (kb/s).
 * H.264 is taken as High profile, HEVC and AV1 as Main tier. null where no level admits them.
 * Source: ITU-T H.264 Annex A, ITU-T H.265 Annex A, AV1 specification Annex A.
 */
export function lowestLevel(picture: EncodedPicture): string | null {
  switch (picture.codec) {
    case 'h264':
      return h264Levels.find((row) => admitsH264(row, picture))?.level ?? null
    case 'hevc':
      return hevcLevels.find((row) => admitsHevc(row, picture))?.level ?? null
    case 'av1':
      return av1Levels.find((row) => admitsAv1(row, picture))?.level ?? null
  }
}

/** The names of a codec's levels, lowest first. */
export function levelsOf(codec: Codec): readonly string[] {
  const rows = { h264: h264Levels, hevc: hevcLevels, av1: av1Levels }[codec]
  return rows.map((row) => row.level)
}

/** Whether a level stands above another; they compare as numbers ("4" and "4.0" are the same level). */
export function isLevelAbove(level: string, cap: string): boolean {
  return Number(level) > Number(cap)
}
