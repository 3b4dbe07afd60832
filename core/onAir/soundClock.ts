import { limiterDelaySeconds } from './limiter'
import { onAirSound } from './messages'

const { sampleRateHz, channels } = onAirSound

/** Further apart than this the two clocks are brought together at once: it is heard less than sound that is out of step. */
const maxApartSamples = Math.round(0.03 * sampleRateHz)
/** Nearer than this they are left as they are. */
const minApartSamples = Math.round(0.001 * sampleRateHz)
/** A block is made so many samples longer or shorter: 0.4 % of a usual one, which nobody hears. */
const mostChangeSamples = 4
/** What comes is never early: of so many seconds the block that came soonest says when it was made. */
const lookSeconds = 2

/** Where a block of sound stands on the pictures' clock, and how many samples it has there. */
export interface PlacedBlock {
  firstSample: number
  count: number
}

/**
 * Puts blocks of sound, counted by the sound card, on the clock of the pictures, to within a few milliseconds
 * of when they were made, and keeps them there by making them a little longer or shorter.
 */
export function newSoundClock(): (frame: number, count: number, nowSeconds: number) => PlacedBlock {
  /** When a block came, and where its first sample would stand had it come without delay, less its frame: each of those that came sooner than all after it. */
  const soonest: { at: number; offset: number }[] = []
  let next: number | undefined

  return (frame, count, nowSeconds) => {
    const made = Math.round((nowSeconds - limiterDelaySeconds) * sampleRateHz) - count
    const offset = made - frame
    while ((soonest.at(-1)?.offset ?? -Infinity) >= offset) soonest.pop()
    soonest.push({ at: nowSeconds, offset })
    while ((soonest[0]?.at ?? Infinity) <= nowSeconds - lookSeconds) soonest.shift()
    const should = frame + (soonest[0]?.offset ?? offset)
    next ??= should
    const apart = should - next
    if (Math.abs(apart) > maxApartSamples) next = should
    const change = Math.abs(should - next) < minApartSamples ? 0 : Math.sign(should - next)
    const placed = {
      firstSample: Math.max(0, next),
      count: count + change * Math.min(mostChangeSamples, Math.abs(should - next)),
    }
    next += placed.count
    return placed
  }
}

/** Interleaved samples made to be so many a channel, by straight lines between them. */
export function resampled(samples: Int16Array, count: number): Int16Array {
  const own = samples.length / channels
  if (own === count || own < 2) return samples
  const made = new Int16Array(count * channels)
  for (let index = 0; index < count; index += 1) {
    const at = count > 1 ? (index * (own - 1)) / (count - 1) : 0
    const before = Math.min(own - 2, Math.floor(at))
    const share = at - before
    for (let channel = 0; channel < channels; channel += 1) {
      const a = samples[before * channels + channel] as number
      const b = samples[(before + 1) * channels + channel] as number
      made[index * channels + channel] = Math.round(a + share * (b - a))
    }
  }
  return made
}
