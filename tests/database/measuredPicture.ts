import { fitPicture, pictureEncodes } from '@green-mantle/core/measured'
import type { OwnPicture } from '@green-mantle/core/show'

const clip = { width: 1280, height: 720, framesPerSecond: 30, seconds: 3 } as const
const effort = 'brisk'
const points = pictureEncodes(clip).map(
  ({ width, height, framesPerSecond, videoBitrateKbps }, index) => ({
    ...{ width, height, framesPerSecond, videoBitrateKbps },
    ...{ ssim: 0.9 + index / 200, vif: 0.5, psnrDecibels: index === 0 ? null : 30 + index },
  }),
)

/** A picture as it would have been measured. */
export const measuredPicture: OwnPicture = {
  name: 'Repotting',
  measuredAt: '2026-11-26T12:00:00.000Z',
  program: 'FFmpeg 5.1',
  processor: 'A processor',
  ...{ clip, effort, points, spatialInformation: 40, temporalInformation: 12 },
  ...fitPicture({ clip, effort, points }),
}
