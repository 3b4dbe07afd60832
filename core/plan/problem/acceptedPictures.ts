import { leastWatchableKbps } from '../../media'
import { acceptedRange, type BitrateRange, firstAtLeast } from './choices'
import { picturesOf, type PlannedShow, type RenditionRequest } from './renditionRequests'

type AcceptedPicture = BitrateRange & { picture: ReturnType<typeof picturesOf>[number] }

/** The pictures that a request accepts, each with the places of the bitrates that rules, levels and pins leave it. */
export function acceptedPictures(
  request: RenditionRequest,
  show: PlannedShow,
  bitratesKbps: readonly number[],
): AcceptedPicture[] {
  const { rules, rendition, pins, mustKeep } = request
  const pinned = firstAtLeast(bitratesKbps, rendition.videoBitrateKbps)
  const isPinned = pins.has('video bitrate')
  const accepted = picturesOf(request, show).flatMap((picture): AcceptedPicture[] => {
    const range = acceptedRange(rules, picture, bitratesKbps)
    if (!range) return []
    if (!isPinned) return [{ ...range, picture }]
    const isWithin = pinned >= range.first && pinned < range.end
    return isWithin ? [{ first: pinned, end: pinned + 1, picture }] : []
  })
  if (isPinned || mustKeep) return accepted
  const watchable = accepted
    .map(({ picture, first, end }) => ({
      picture,
      first: Math.max(first, firstAtLeast(bitratesKbps, leastWatchableKbps(picture))),
      end,
    }))
    .filter(({ first, end }) => first < end)
  // What the rules hold it to is not the planner's choice.
  return watchable.length > 0 ? watchable : accepted
}
