import { uniformInt } from 'pure-rand/distribution/uniformInt'
import { mersenne } from 'pure-rand/generator/mersenne'
import { efforts, type MeasuredPoint, type OwnPicture, pictureKinds } from '../../show'

/**
 * Measured pictures of the kinds that no clip makes: scores that fall with more bits, or as the size
 * grows; encodes of the same bits, one alone, all broken or all clean; a clip smaller than what is sent;
 * bits for a clean picture at either end.
 */
export function wildPicture(seed: number): OwnPicture {
  const generator = mersenne(seed)
  const whole = (from: number, to: number): number => uniformInt(generator, from, to)
  const pick = <T>(list: readonly T[]): T => list[whole(0, list.length - 1)] as T
  const clip = {
    ...pick([
      { width: 1920, height: 1080 },
      { width: 720, height: 1280 },
      { width: 320, height: 180 },
    ]),
    framesPerSecond: pick([24, 30, 60]),
    seconds: 3,
  }
  const similarity = pick([
    () => whole(0, 1000) / 1000,
    () => whole(900, 1000) / 1000,
    () => 0,
    () => 1,
  ])
  const bitrates = pick([[700], [200, 200, 900], [150, 400, 1100, 5000]])
  const points = pick([[1], [1, 2 / 3], [1, 2 / 3, 1 / 3]]).flatMap((share) =>
    pick([[1], [1, 2]]).flatMap((every) =>
      bitrates.map((videoBitrateKbps): MeasuredPoint => ({
        width: Math.round(clip.width * share),
        height: Math.round(clip.height * share),
        framesPerSecond: clip.framesPerSecond / every,
        ...{ videoBitrateKbps, ssim: similarity(), vif: 0.5, psnrDecibels: null },
      })),
    ),
  )
  return {
    ...{ name: 'Wild', measuredAt: '2026-11-26T12:00:00.000Z', program: '', processor: '' },
    ...{ clip, points, spatialInformation: 0, temporalInformation: 0 },
    nearestKind: pick(pictureKinds),
    cleanBitrateKbps: pick([200, 6000, 40_000, 400_000]),
    effort: pick(efforts),
  }
}
