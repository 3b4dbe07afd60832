import { nanoid } from 'nanoid'
import { useNightLogStore } from '~/stores/nightLog'
import { useRunSheetStore } from '~/stores/runSheet'
import { useSenderStore } from '~/stores/sender'

/** Marks a moment of the show, so many seconds back, to be named now or later. */
export function useMarking(): (backSeconds: number) => void {
  const sheet = useRunSheetStore()
  const log = useNightLogStore()
  const sender = useSenderStore()
  return (backSeconds) => {
    sheet.say({
      kind: 'marked',
      markId: nanoid(12),
      name: '',
      sceneId: log.state.sceneId,
      backSeconds,
    })
    // What is sent from here is held for as long: it is kept as a file too.
    if (backSeconds > 0 && sender.isOn) void sender.keepLookBack()
  }
}
