import { onAirSound } from '@green-mantle/core/on-air'

/** A sound card's clock and the computer's part by less than this before they are brought together. */
const maxApartSamples = Math.round(0.1 * onAirSound.sampleRateHz)
const smoothing = 0.02

/**
 * Puts blocks of sound, counted by the sound card, on the clock of the pictures: once when it begins, and
 * again where the two have drifted apart. Gives the first sample of a block on that clock.
 */
export function newSoundClock(): (frame: number, count: number, nowSeconds: number) => number {
  let offset: number | undefined
  let apart = 0
  return (frame, count, nowSeconds) => {
    const should = Math.round(nowSeconds * onAirSound.sampleRateHz) - count
    offset ??= should - frame
    apart += smoothing * (should - (frame + offset) - apart)
    if (Math.abs(apart) > maxApartSamples) {
      offset += Math.round(apart)
      apart = 0
    }
    return Math.max(0, frame + offset)
  }
}
