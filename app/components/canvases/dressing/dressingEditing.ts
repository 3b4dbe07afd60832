import type { Dressing } from '@green-mantle/core/show'
import { useShowStore } from '~/stores/show'

/** What can be done to the one look of all placements; every call is one edit of the show. */
export function useDressingEditing() {
  const store = useShowStore()

  function choose(dressing: Dressing): void {
    store.edit(`Dress the show in ${dressing.name}`, (draft) => {
      draft.dressing = structuredClone(dressing)
    })
  }

  function change(label: string, recipe: (dressing: Dressing) => void): void {
    store.edit(
      `${label} of the dressing`,
      ({ dressing }) => {
        // What it gives back is of no meaning: it alters what it is given.
        recipe(dressing)
      },
      { mergeKey: `dressing ${label}` },
    )
  }

  return { choose, change }
}
