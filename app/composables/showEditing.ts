import type { OwnPicture, PictureChoice, Show, ShowWords } from '@green-mantle/core/show'
import { useShowStore } from '~/stores/show'

type Details = Pick<Show, 'title' | 'startsAt' | 'timeZone' | 'durationMinutes'>

/** What can be set of a show as a whole; every call is one edit of it. */
export function useShowEditing() {
  const store = useShowStore()

  function set(label: string, changes: Partial<Show>): void {
    store.edit(label, (draft) => void Object.assign(draft, changes))
  }

  return {
    setDetails: (label: string, details: Partial<Details>): void => set(label, details),
    setPictureKind: (pictureKind: PictureChoice): void =>
      set('Set the kind of picture', { pictureKind }),
    takeOwnPicture: (ownPicture: OwnPicture): void =>
      set('Use my picture', { ownPicture, pictureKind: 'own' }),
    setMixSampleRate: (mixSampleRateHz: Show['mixSampleRateHz']): void =>
      set('Set the rate of the mix', { mixSampleRateHz }),
    setFrameRate: (framesPerSecond: Show['canvasPair']['framesPerSecond']): void =>
      set(`Run at ${framesPerSecond} fps`, {
        canvasPair: { ...store.show.canvasPair, framesPerSecond },
      }),
    /** What is said of the show everywhere. */
    setWords: (label: string, words: Partial<ShowWords>): void =>
      set(label, { words: { ...store.show.words, ...words } }),
  }
}
