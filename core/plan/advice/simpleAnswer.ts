import { bitrateStepKbps } from '../../fit'
import { lowestLevel, pictureScore, saturatingBitrateKbps } from '../../media'
import { wireRateKbps } from '../../network'
import {
  headroomLimitsPercent,
  newRendition,
  type Picture,
  type Rendition,
  type ViewerScreen,
} from '../../show'

/** The sizes and frame rates that people ask for, the largest first. */
export const commonShapes = [
  { width: 3840, height: 2160, framesPerSecond: 60 },
  { width: 3840, height: 2160, framesPerSecond: 30 },
  { width: 2560, height: 1440, framesPerSecond: 60 },
  { width: 1920, height: 1080, framesPerSecond: 60 },
  { width: 1920, height: 1080, framesPerSecond: 30 },
  { width: 1280, height: 720, framesPerSecond: 60 },
  { width: 1280, height: 720, framesPerSecond: 30 },
  { width: 854, height: 480, framesPerSecond: 30 },
  { width: 640, height: 360, framesPerSecond: 30 },
] as const
export type UsualShape = (typeof commonShapes)[number]

/** One send over RTMPS with the usual settings, as good as the line lets it be. */
export interface SimpleAnswer {
  rendition: Rendition
  wireKbps: number
  usableKbps: number
  /** What is left alone. */
  headroomKbps: number
  headroomPercent: number
  level: string | null
  score: number
}

/** What an upload (kb/s) less the usual headroom carries of one shape; null where not even the least bitrate fits. */
export function simpleAnswer(
  uploadKbps: number,
  shape: UsualShape,
  picture: Picture,
  screen: ViewerScreen,
): SimpleAnswer | null {
  const headroomPercent = headroomLimitsPercent.default
  const headroomKbps = (uploadKbps * headroomPercent) / 100
  const usableKbps = uploadKbps - headroomKbps
  const rendition = { ...newRendition('answer', 'landscape'), ...shape, codec: 'h264' as const }
  const highest = Math.ceil(saturatingBitrateKbps(rendition, picture) / bitrateStepKbps)
  for (let step = highest; step > 0; step -= 1) {
    const tried = { ...rendition, videoBitrateKbps: step * bitrateStepKbps }
    const wireKbps = wireRateKbps(tried, 'rtmps')
    if (wireKbps <= usableKbps)
      return {
        rendition: tried,
        wireKbps,
        usableKbps,
        headroomKbps,
        headroomPercent,
        level: lowestLevel(tried),
        score: pictureScore(tried, picture, screen),
      }
  }
  return null
}

/** The shape that looks best at this upload. */
export function bestAnswer(
  uploadKbps: number,
  picture: Picture,
  screen: ViewerScreen,
): SimpleAnswer | null {
  return commonShapes
    .flatMap((shape) => simpleAnswer(uploadKbps, shape, picture, screen) ?? [])
    .reduce<SimpleAnswer | null>(
      (best, answer) => (best && best.score >= answer.score ? best : answer),
      null,
    )
}
