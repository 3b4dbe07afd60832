import type { Rendition } from '../rendition'
import type { Show } from '../show'

type WithRenditions = Pick<Show, 'destinations' | 'recordings'>

/** A show with every rendition changed, those that are sent and those that are recorded. */
export const withEveryRendition = <Shown extends WithRenditions>(
  show: Shown,
  change: (rendition: Rendition) => Rendition,
): Shown => ({
  ...show,
  destinations: show.destinations.map((destination) => ({
    ...destination,
    renditions: destination.renditions.map(change),
  })),
  recordings: show.recordings.map((recording) => ({
    ...recording,
    rendition: change(recording.rendition),
  })),
})
