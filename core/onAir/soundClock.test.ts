import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { limiterDelaySeconds } from './limiter'
import { onAirSound } from './messages'
import { newSoundClock, type PlacedBlock, resampled } from './soundClock'

const { sampleRateHz } = onAirSound
const block = 1024
const began = 5

/** What blocks are put at, where each comes `late` seconds after it was made, and the card is `faster` than the clock. */
function placed(seconds: number, faster = 1, late: () => number = () => 0.02): PlacedBlock[] {
  const place = newSoundClock()
  const places: PlacedBlock[] = []
  for (let frame = 0; frame < seconds * sampleRateHz; frame += block) {
    const madeAt = (frame + block) / (sampleRateHz * faster)
    places.push(place(50_000 + frame, block, began + madeAt + late()))
  }
  return places
}
const endOf = ({ firstSample, count }: PlacedBlock): number => firstSample + count

describe('blocks of sound on the pictures’ clock', () => {
  it('follow each other without a gap, and stand by those that came soonest', () => {
    let turn = 0
    const places = placed(20, 1, () => 0.01 + 0.03 * ((turn += 1) % 7))
    places.slice(1).forEach((at, index) => expect(at.firstSample).toBe(endOf(places[index]!)))
    const last = endOf(places.at(-1)!) / sampleRateHz
    expect(last - (began + (places.length * block) / sampleRateHz)).toBeCloseTo(
      0.01 - limiterDelaySeconds,
      2,
    )
  })

  it.each([0.9995, 1.0005])(
    'stay in step where a card is %d times as fast as the clock, and nothing is lost or doubled',
    (faster) => {
      const places = placed(600, faster)
      places.slice(1).forEach((at, index) => expect(at.firstSample).toBe(endOf(places[index]!)))
      const made = began + (places.length * block) / (sampleRateHz * faster)
      expect(Math.abs(endOf(places.at(-1)!) / sampleRateHz - made)).toBeLessThan(0.03)
    },
  )

  it('are in step again at once after the card stood still', () => {
    const place = newSoundClock()
    for (let index = 0; index < 100; index += 1)
      place(index * block, block, ((index + 1) * block) / sampleRateHz)
    const late = 3
    let last = place(100 * block, block, (101 * block) / sampleRateHz + late)
    for (let index = 101; index < 300; index += 1)
      last = place(index * block, block, ((index + 1) * block) / sampleRateHz + late)
    expect(Math.abs(endOf(last) / sampleRateHz - (300 * block) / sampleRateHz - late)).toBeLessThan(
      0.03,
    )
  })
})

describe('a block made longer or shorter', () => {
  it('keeps its ends, its shape, and both channels apart', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 2, max: 600 }),
        fc.integer({ min: -4, max: 4 }),
        (own, change) => {
          const count = Math.max(2, own + change)
          const line = Int16Array.from({ length: own * 2 }, (_, at) =>
            at % 2 === 0 ? (at / 2) * 20 : -(at >> 1) * 10,
          )
          const made = resampled(line, count)
          expect(made.length).toBe(count * 2)
          for (let index = 0; index < count; index += 1) {
            const at = (index * (own - 1)) / (count - 1)
            expect(Math.abs(made[index * 2]! - at * 20)).toBeLessThanOrEqual(1)
            expect(Math.abs(made[index * 2 + 1]! + at * 10)).toBeLessThanOrEqual(1)
          }
        },
      ),
    )
  })
})
