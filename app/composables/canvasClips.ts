import { isOfShape } from '@green-mantle/core/night'
import type { CanvasName } from '@green-mantle/core/show'
import { useShowStore } from '~/stores/show'

/** The show's media files that a canvas can show whole; one of another shape would be distorted. */
export function useCanvasClips() {
  const store = useShowStore()
  return (canvas: CanvasName): { value: string; label: string }[] =>
    store.show.sources.flatMap(({ name, appearance, nativeWidth, nativeHeight }) =>
      appearance.type === 'media file' &&
      isOfShape({ width: nativeWidth, height: nativeHeight }, store.show.canvasPair[canvas])
        ? [{ value: appearance.fileId, label: `${name}, played again and again` }]
        : [],
    )
}
