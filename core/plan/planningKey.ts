import { usableUploadOf } from '../fit'
import { type Pin, type Rendition, pictureOf } from '../show'
import type { PlannedShow } from './problem/renditionRequests'

/** What of a rendition is asked for, as against what the planner filled in. */
function asked(rendition: Rendition, step: number): unknown {
  const { width, height, framesPerSecond, codec, effort, videoBitrateKbps, encoder, ...rest } =
    rendition
  const { deviceId, ...settings } = encoder
  const isPinned = (pin: Pin): boolean => rendition.pins.includes(pin)
  return {
    ...rest,
    settings,
    size: isPinned('size') || step > 0 ? [width, height] : null,
    framesPerSecond: isPinned('frame rate') || step > 0 ? framesPerSecond : null,
    codec: isPinned('codec') || step > 0 ? codec : null,
    effort: isPinned('effort') ? effort : null,
    videoBitrateKbps: isPinned('video bitrate') ? videoBitrateKbps : null,
    deviceId: isPinned('device') ? deviceId : null,
  }
}

/**
 * Everything about a show that a plan depends on, as a text to compare: two shows with the same text
 * have the same best plan. What the planner itself fills in is not part of it.
 */
export function planningKey(show: PlannedShow): string {
  return JSON.stringify([
    usableUploadOf(show).usableKbps,
    pictureOf(show),
    show.canvasPair,
    show.durationMinutes,
    [show.fit.floorScore, show.fit.marginPoints, show.fit.shapeMarginPoints, show.fit.newerCodecs],
    show.computer,
    show.destinations.map(({ plan, relayId, renditions, ...destination }) => {
      const { id, on, canvas, connection, protocol, backupAddress, path, viewers, rules } =
        destination
      const isHandOff = connection === 'hand-off'
      return [
        [id, on, canvas, connection, protocol, backupAddress !== null, path, viewers, rules],
        [plan.priority, plan.mustKeep, plan.newerCodecs, plan.routePinned ? relayId : 'open'],
        isHandOff ? renditions : renditions.map((rendition, step) => asked(rendition, step)),
      ]
    }),
    show.recordings.map(({ plan, rendition, ...recording }) => [
      recording,
      plan.priority,
      plan.mustKeep,
      asked(rendition, 0),
    ]),
  ])
}
