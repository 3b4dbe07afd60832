import type { ArrivedPicture, ArrivedSound } from '@green-mantle/core/arrival'
import parameterSets from 'node-media-server/src/protocol/sps_info.js'
import { allowsFields } from './scanOfAvc'

/** Profiles by their number, as the standards name them (ITU-T H.264 and H.265 Annex A). */
const h264Profiles: Readonly<Record<number, string>> = {
  66: 'Baseline',
  77: 'Main',
  88: 'Extended',
  100: 'High',
  110: 'High 10',
  122: 'High 4:2:2',
  244: 'High 4:4:4 Predictive',
}
const hevcProfiles: Readonly<Record<number, string>> = {
  1: 'Main',
  2: 'Main 10',
  3: 'Main Still Picture',
}
const av1Profiles: Readonly<Record<number, string>> = { 0: 'Main', 1: 'High', 2: 'Professional' }

const levelInWords = (tenths: number): string =>
  tenths % 10 === 0 ? `${tenths / 10}` : (tenths / 10).toFixed(1)

/** The picture of an AVC decoder configuration record (ISO/IEC 14496-15); null where it is damaged. */
export function pictureOfAvc(record: Buffer): ArrivedPicture | null {
  if (record.length < 8) return null
  const [profile, constraints, level] = [record[1], record[2], record[3]] as [
    number,
    number,
    number,
  ]
  const length = record.readUInt16BE(6)
  const set = record.subarray(8, 8 + length)
  const isWhole = set.length === length && length > 4
  const size = isWhole ? parameterSets.parseH264Sps(set) : null
  const isInterlaced = isWhole ? allowsFields(set) : null
  const isConstrained = profile === 66 && (constraints & 0x40) !== 0
  return {
    codec: 'h264',
    profile: isConstrained ? 'Constrained Baseline' : (h264Profiles[profile] ?? `${profile}`),
    level: levelInWords(level),
    width: size?.width ?? null,
    height: size?.height ?? null,
    ...(isInterlaced !== null && { isInterlaced }),
  }
}

const spsType = 33

/** The picture of an HEVC decoder configuration record (ISO/IEC 14496-15); null where it is damaged. */
export function pictureOfHevc(record: Buffer): ArrivedPicture | null {
  if (record.length < 23) return null
  const profile = (record[1] as number) & 0x1f
  // general_level_idc is thirty times the level.
  const level = Math.round((record[12] as number) / 3)
  let size: { width: number; height: number } | null = null
  let at = 23
  for (let array = 0; array < (record[22] as number) && at + 3 <= record.length; array += 1) {
    const type = (record[at] as number) & 0x3f
    const count = record.readUInt16BE(at + 1)
    at += 3
    for (let unit = 0; unit < count && at + 2 <= record.length; unit += 1) {
      const length = record.readUInt16BE(at)
      if (type === spsType)
        size ??= parameterSets.parseH265Sps(record.subarray(at + 2, at + 2 + length))
      at += 2 + length
    }
  }
  return {
    codec: 'hevc',
    profile: hevcProfiles[profile] ?? `${profile}`,
    level: levelInWords(level),
    width: size?.width ?? null,
    height: size?.height ?? null,
  }
}

/** The picture of an AV1 codec configuration record (AV1 in ISOBMFF); its size is in the stream only. */
export function pictureOfAv1(record: Buffer): ArrivedPicture | null {
  const second = record[1]
  if (second === undefined) return null
  const index = second & 0x1f
  return {
    codec: 'av1',
    profile: av1Profiles[second >> 5] ?? null,
    level: levelInWords((2 + (index >> 2)) * 10 + (index & 3)),
    width: null,
    height: null,
  }
}

const sampleRatesHz = [
  96_000, 88_200, 64_000, 48_000, 44_100, 32_000, 24_000, 22_050, 16_000, 12_000, 11_025, 8000,
  7350,
]

/** Audio object types of HE-AAC, with parametric stereo and without. */
const parametricStereo = 29
const highEfficiencyTypes = new Set([5, parametricStereo])

/** The sound of an AudioSpecificConfig (ISO/IEC 14496-3); null where it is damaged. */
export function soundOfAac(config: Buffer): ArrivedSound | null {
  const [first, second, third] = [config[0], config[1], config[2]]
  if (first === undefined || second === undefined) return null
  const isHighEfficiency = highEfficiencyTypes.has(first >> 3)
  // Of HE-AAC the rate that is heard comes behind that of its core.
  const index =
    isHighEfficiency && third !== undefined
      ? ((second & 7) << 1) | (third >> 7)
      : ((first & 7) << 1) | (second >> 7)
  const channels = (second >> 3) & 0xf
  return {
    codec: 'aac',
    ...(isHighEfficiency && { isHighEfficiency }),
    sampleRateHz: sampleRatesHz[index] ?? null,
    // Parametric stereo is one channel that two are made of.
    channels: first >> 3 === parametricStereo ? 2 : channels || null,
  }
}
