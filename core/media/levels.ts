import type { Codec, Rendition } from '../show'
import { av1Levels, h264Levels, hevcLevels } from './levelTables'

export type EncodedPicture = Pick<
  Rendition,
  'width' | 'height' | 'framesPerSecond' | 'codec' | 'videoBitrateKbps'
>

const macroblockPixels = 16
/** The High profile may spend this many times the Main profile's bitrate (ITU-T H.264, Table A-2: cpbBrVclFactor 1250 to 1000). */
const highProfileBitrateFactor = 1.25

type Sized = Omit<EncodedPicture, 'videoBitrateKbps'>

function admitsH264Size(row: (typeof h264Levels)[number], picture: Sized): boolean {
  const across = Math.ceil(picture.width / macroblockPixels)
  const down = Math.ceil(picture.height / macroblockPixels)
  const longestSide = Math.floor(Math.sqrt(8 * row.macroblocks))
  return (
    across * down <= row.macroblocks &&
    across <= longestSide &&
    down <= longestSide &&
    across * down * picture.framesPerSecond <= row.macroblocksPerSecond
  )
}

function admitsHevcSize(row: (typeof hevcLevels)[number], picture: Sized): boolean {
  const samples = picture.width * picture.height
  const longestSide = Math.floor(Math.sqrt(8 * row.samples))
  return (
    samples <= row.samples &&
    picture.width <= longestSide &&
    picture.height <= longestSide &&
    samples * picture.framesPerSecond <= row.samplesPerSecond
  )
}

function admitsAv1Size(row: (typeof av1Levels)[number], picture: Sized): boolean {
  const samples = picture.width * picture.height
  return (
    samples <= row.samples &&
    picture.width <= row.width &&
    picture.height <= row.height &&
    samples * picture.framesPerSecond <= row.samplesPerSecond
  )
}

/** The levels that admit a picture's size and frame rate, the lowest first, each with the bitrate (kb/s) it admits. */
function levelsFor(picture: Sized): { level: string; bitrateKbps: number }[] {
  switch (picture.codec) {
    case 'h264':
      return h264Levels
        .filter((row) => admitsH264Size(row, picture))
        .map(({ level, bitrateKbps }) => ({
          level,
          bitrateKbps: bitrateKbps * highProfileBitrateFactor,
        }))
    case 'hevc':
      return hevcLevels.filter((row) => admitsHevcSize(row, picture))
    case 'av1':
      return av1Levels.filter((row) => admitsAv1Size(row, picture))
  }
}

/**
 * The lowest level of the codec's own table that admits size (pixels), frame rate and bitrate (kb/s).
 * H.264 is taken as High profile, HEVC and AV1 as Main tier. null where no level admits them.
 * Source: ITU-T H.264 Annex A, ITU-T H.265 Annex A, AV1 specification Annex A.
 */
export function lowestLevel(picture: EncodedPicture): string | null {
  const { videoBitrateKbps } = picture
  return (
    levelsFor(picture).find(({ bitrateKbps }) => videoBitrateKbps <= bitrateKbps)?.level ?? null
  )
}

/**
 * The highest bitrate (kb/s) at which a picture of this size (pixels) and frame rate stays within a
 * level; `cap` null for any. null where no such level admits it.
 */
export function highestBitrateKbps(picture: Sized, cap: string | null): number | null {
  const admitted = levelsFor(picture).filter(
    ({ level }) => cap === null || !isLevelAbove(level, cap),
  )
  return admitted.length > 0 ? Math.max(...admitted.map(({ bitrateKbps }) => bitrateKbps)) : null
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
