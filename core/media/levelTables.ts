/**
 * The published limits of each level, lowest first.
 * Written down from memory of the publications; `levels.test.ts` checks some of them against encoders.
 */

/** ITU-T H.264 Annex A, Table A-1. Bitrates are for the Main profile; High is allowed 1.25 times as much. */
export const h264Levels = [
  { level: '1', macroblocksPerSecond: 1_485, macroblocks: 99, bitrateKbps: 64 },
  { level: '1.1', macroblocksPerSecond: 3_000, macroblocks: 396, bitrateKbps: 192 },
  { level: '1.2', macroblocksPerSecond: 6_000, macroblocks: 396, bitrateKbps: 384 },
  { level: '1.3', macroblocksPerSecond: 11_880, macroblocks: 396, bitrateKbps: 768 },
  { level: '2', macroblocksPerSecond: 11_880, macroblocks: 396, bitrateKbps: 2_000 },
  { level: '2.1', macroblocksPerSecond: 19_800, macroblocks: 792, bitrateKbps: 4_000 },
  { level: '2.2', macroblocksPerSecond: 20_250, macroblocks: 1_620, bitrateKbps: 4_000 },
  { level: '3', macroblocksPerSecond: 40_500, macroblocks: 1_620, bitrateKbps: 10_000 },
  { level: '3.1', macroblocksPerSecond: 108_000, macroblocks: 3_600, bitrateKbps: 14_000 },
  { level: '3.2', macroblocksPerSecond: 216_000, macroblocks: 5_120, bitrateKbps: 20_000 },
  { level: '4', macroblocksPerSecond: 245_760, macroblocks: 8_192, bitrateKbps: 20_000 },
  { level: '4.1', macroblocksPerSecond: 245_760, macroblocks: 8_192, bitrateKbps: 50_000 },
  { level: '4.2', macroblocksPerSecond: 522_240, macroblocks: 8_704, bitrateKbps: 50_000 },
  { level: '5', macroblocksPerSecond: 589_824, macroblocks: 22_080, bitrateKbps: 135_000 },
  { level: '5.1', macroblocksPerSecond: 983_040, macroblocks: 36_864, bitrateKbps: 240_000 },
  { level: '5.2', macroblocksPerSecond: 2_073_600, macroblocks: 36_864, bitrateKbps: 240_000 },
  { level: '6', macroblocksPerSecond: 4_177_920, macroblocks: 139_264, bitrateKbps: 240_000 },
  { level: '6.1', macroblocksPerSecond: 8_355_840, macroblocks: 139_264, bitrateKbps: 480_000 },
  { level: '6.2', macroblocksPerSecond: 16_711_680, macroblocks: 139_264, bitrateKbps: 800_000 },
] as const

/** ITU-T H.265 Annex A, Main tier. */
export const hevcLevels = [
  { level: '2', samples: 122_880, samplesPerSecond: 3_686_400, bitrateKbps: 1_500 },
  { level: '2.1', samples: 245_760, samplesPerSecond: 7_372_800, bitrateKbps: 3_000 },
  { level: '3', samples: 552_960, samplesPerSecond: 16_588_800, bitrateKbps: 6_000 },
  { level: '3.1', samples: 983_040, samplesPerSecond: 33_177_600, bitrateKbps: 10_000 },
  { level: '4', samples: 2_228_224, samplesPerSecond: 66_846_720, bitrateKbps: 12_000 },
  { level: '4.1', samples: 2_228_224, samplesPerSecond: 133_693_440, bitrateKbps: 20_000 },
  { level: '5', samples: 8_912_896, samplesPerSecond: 267_386_880, bitrateKbps: 25_000 },
  { level: '5.1', samples: 8_912_896, samplesPerSecond: 534_773_760, bitrateKbps: 40_000 },
  { level: '5.2', samples: 8_912_896, samplesPerSecond: 1_069_547_520, bitrateKbps: 60_000 },
  { level: '6', samples: 35_651_584, samplesPerSecond: 1_069_547_520, bitrateKbps: 60_000 },
] as const

/** AV1 bitstream specification Annex A, Main tier. */
export const av1Levels = [
  {
    level: '2.0',
    samples: 147_456,
    width: 2_048,
    height: 1_152,
    samplesPerSecond: 4_423_680,
    bitrateKbps: 1_500,
  },
  {
    level: '2.1',
    samples: 278_784,
    width: 2_816,
    height: 1_584,
    samplesPerSecond: 8_363_520,
    bitrateKbps: 3_000,
  },
  {
    level: '3.0',
    samples: 665_856,
    width: 4_352,
    height: 2_448,
    samplesPerSecond: 19_975_680,
    bitrateKbps: 6_000,
  },
  {
    level: '3.1',
    samples: 1_065_024,
    width: 5_504,
    height: 3_096,
    samplesPerSecond: 31_950_720,
    bitrateKbps: 10_000,
  },
  {
    level: '4.0',
    samples: 2_359_296,
    width: 6_144,
    height: 3_456,
    samplesPerSecond: 70_778_880,
    bitrateKbps: 12_000,
  },
  {
    level: '4.1',
    samples: 2_359_296,
    width: 6_144,
    height: 3_456,
    samplesPerSecond: 141_557_760,
    bitrateKbps: 20_000,
  },
  {
    level: '5.0',
    samples: 8_912_896,
    width: 8_192,
    height: 4_352,
    samplesPerSecond: 267_386_880,
    bitrateKbps: 30_000,
  },
  {
    level: '5.1',
    samples: 8_912_896,
    width: 8_192,
    height: 4_352,
    samplesPerSecond: 534_773_760,
    bitrateKbps: 40_000,
  },
  {
    level: '5.2',
    samples: 8_912_896,
    width: 8_192,
    height: 4_352,
    samplesPerSecond: 1_069_547_520,
    bitrateKbps: 60_000,
  },
] as const
