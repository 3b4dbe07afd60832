import { dressingFileExtension, writeDressingFile } from '@green-mantle/core/formats'
import { chooseTextFile, download, fileNameFor } from '~/composables/files'
import { useShowStore } from '~/stores/show'
import { useToastStore } from '~/stores/toasts'
import { readingWorker } from '~/workers/workers'
import { useDressingEditing } from './dressingEditing'

/** A dressing as a file of its own, to use it in another show. */
export function useDressingFiles() {
  const store = useShowStore()
  const toasts = useToastStore()
  const { choose } = useDressingEditing()

  function save(): void {
    const { dressing } = store.show
    download(
      `${fileNameFor(dressing.name)}${dressingFileExtension}`,
      'application/json',
      writeDressingFile(dressing),
    )
  }

  async function open(): Promise<void> {
    const file = await chooseTextFile('.json,application/json')
    if (!file) return
    const read = await readingWorker().readDressingFile(file.text)
    if (read.ok) {
      choose(read.value)
      return
    }
    const [first] = read.problems
    toasts.tell(
      `${file.name} was not taken: ${first?.place}: ${first?.message}. The dressing stays as it was.`,
      { tone: 'fails' },
    )
  }

  return { save, open }
}
