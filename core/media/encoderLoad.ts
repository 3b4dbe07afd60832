import type { Rendition, Throughput } from '../show'

/** What an encoder at one codec and effort costs its device; as `Throughput` has it. */
export type EncoderCost = Pick<Throughput, 'megapixelsPerSecond' | 'millisecondsAFrame'>

/** Common practice: plan an encoder to this share of what it can do, no published source. */
export const plannedEncoderShare = 0.8

/** Megapixels per second that an encode asks of its encoder. */
export function megapixelsPerSecond(
  rendition: Pick<Rendition, 'width' | 'height' | 'framesPerSecond'>,
): number {
  return (rendition.width * rendition.height * rendition.framesPerSecond) / 1e6
}

/**
 * Share of a device that one encode takes, 1 = all of it: its pixels over what the device gets through
 * at its codec and effort, and what each frame costs whatever its size. `togetherFactor` is by how
 * much several at once take more than their sum.
 */
export const encoderLoad = (
  rendition: Pick<Rendition, 'width' | 'height' | 'framesPerSecond'>,
  { megapixelsPerSecond: throughput, millisecondsAFrame = 0 }: EncoderCost,
  togetherFactor = 1,
): number =>
  (megapixelsPerSecond(rendition) / throughput +
    (rendition.framesPerSecond * millisecondsAFrame) / 1000) *
  togetherFactor
