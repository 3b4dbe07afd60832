import {
  beginMeasuringPicture,
  fetchOwnPictures,
  removeOwnPicture,
  stopMeasuringPicture,
} from '~/api/pictures'
import { useMeasuring } from './measuring'

/** The pictures that were measured here, and measuring another. */
export function useOwnPictures() {
  const { known, attempt, ...rest } = useMeasuring(fetchOwnPictures)
  return {
    known,
    ...rest,
    measure: (clip: () => Promise<{ fileId: string; name: string } | null>) =>
      attempt(async () => {
        const chosen = await clip()
        if (chosen) await beginMeasuringPicture(chosen.fileId, chosen.name)
      }),
    stop: () => attempt(stopMeasuringPicture),
    remove: (id: string) => attempt(() => removeOwnPicture(id)),
  }
}
