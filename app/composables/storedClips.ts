import { mediaTypes } from '@green-mantle/core/picture'
import { computed } from 'vue'
import { storeFile } from '~/api/files'
import type { StoredClip } from '~/api/pictures'
import { chooseFiles, typeOfFile } from '~/composables/files'
import { useShowStore } from '~/stores/show'

/** The clips that something can be measured by: the show's own media files, and others that are chosen. */
export function useStoredClips() {
  const store = useShowStore()
  const ownClips = computed(() =>
    store.show.sources.flatMap(({ name, appearance }) =>
      appearance.type === 'media file' ? [{ value: appearance.fileId, label: name }] : [],
    ),
  )
  return {
    ownClips,
    ownClip: (choice: string): StoredClip[] =>
      ownClips.value
        .filter(({ value }) => value === choice)
        .map(({ value, label }) => ({ fileId: value, name: label })),
  }
}

/** Lets a person choose at most so many files and stores them; none where nothing was chosen. Throws in words where it were more. */
export async function chooseClips(max: number): Promise<StoredClip[]> {
  const files = await chooseFiles(mediaTypes.join(','))
  if (files.length > max)
    throw new Error(
      `At most ${max === 1 ? 'one clip is' : `${max} clips are`} measured at once. Nothing was measured.`,
    )
  const stored: StoredClip[] = []
  for (const file of files) {
    const { id } = await storeFile(file, typeOfFile(file))
    stored.push({ fileId: id, name: file.name.slice(0, 200) })
  }
  return stored
}
