import type { MakeIdentifier } from './identifier'
import { newPlacement, newSourceStarts, type NewSourceKind } from './defaults'
import type { Layer, Scene } from './scene'
import type { Show } from './show'
import type { Source } from './source'

/** A name that no source has yet: "Camera", "Camera 2", … */
export function freeName(wanted: string, taken: readonly string[]): string {
  if (!taken.includes(wanted)) return wanted
  let number = 2
  while (taken.includes(`${wanted} ${number}`)) number += 1
  return `${wanted} ${number}`
}

/** A new source of a kind, and the layer that puts it in front of a scene, shown on both canvases. */
export function newSourceWithLayer(
  show: Show,
  kind: NewSourceKind,
  makeIdentifier: MakeIdentifier,
): { source: Source; layer: Layer } {
  const label = kind[0]?.toUpperCase() + kind.slice(1)
  const source: Source = {
    id: makeIdentifier(),
    name: freeName(
      label,
      show.sources.map(({ name }) => name),
    ),
    kind,
    ...newSourceStarts[kind],
  }
  const native = { width: source.nativeWidth, height: source.nativeHeight }
  return {
    source,
    layer: {
      id: makeIdentifier(),
      sourceId: source.id,
      landscape: newPlacement(native, show.canvasPair.landscape, true),
      vertical: newPlacement(native, show.canvasPair.vertical, true),
    },
  }
}

/** The sources that no scene uses any more. */
export function unusedSources(show: Pick<Show, 'sources' | 'scenes'>): Source[] {
  const used = new Set(show.scenes.flatMap(({ layers }) => layers.map(({ sourceId }) => sourceId)))
  return show.sources.filter(({ id }) => !used.has(id))
}

/** Moves a layer to another place in the front-to-back order; the place is held within the list. */
export function reorderLayers(scene: Scene, from: number, to: number): Layer[] {
  const layers = [...scene.layers]
  const [moved] = layers.splice(from, 1)
  if (moved) layers.splice(Math.max(0, Math.min(to, layers.length)), 0, moved)
  return layers
}
