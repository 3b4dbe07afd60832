import {
  beginMeasuringPicture,
  fetchOwnPictures,
  removeOwnPicture,
  type StoredClip,
  stopMeasuringPicture,
} from '~/api/pictures'
import { useMeasuring } from './measuring'

/** The pictures that were measured here, and measuring another. */
export function useOwnPictures() {
  const { known, attempt, ...rest } = useMeasuring(fetchOwnPictures)
  return {
    known,
    ...rest,
    /** Nothing is measured where no clip is chosen after all. */
    measure: (choose: () => Promise<StoredClip[]>) =>
      attempt(async () => {
        const clips = await choose()
        if (clips.length > 0) await beginMeasuringPicture(clips)
      }),
    stop: () => attempt(stopMeasuringPicture),
    remove: (id: string) => attempt(() => removeOwnPicture(id)),
  }
}
