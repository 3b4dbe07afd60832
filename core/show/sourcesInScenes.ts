import type { MakeIdentifier } from './identifier'
import type { CanvasName } from './canvasPair'
import { newPlacement, newSourceStarts } from './defaults'
import type { Layer, Placement } from './scene'
import type { Show } from './show'
import { nativeSizeOf, type Source, type SourceKind } from './source'

/** A name that no source has yet: "Camera", "Camera 2", … */
export function freeName(wanted: string, taken: readonly string[]): string {
  if (!taken.includes(wanted)) return wanted
  let number = 2
  while (taken.includes(`${wanted} ${number}`)) number += 1
  return `${wanted} ${number}`
}

/** A new source of a kind, with a name of its own; `settings` override what a new one is like. */
export function newSource(
  show: Pick<Show, 'sources'>,
  kind: SourceKind,
  makeIdentifier: MakeIdentifier,
  settings: Partial<Omit<Source, 'id' | 'kind'>> = {},
): Source {
  const names = show.sources.map(({ name }) => name)
  const label = settings.name ?? kind[0]?.toUpperCase() + kind.slice(1)
  return {
    ...newSourceStarts[kind],
    focus: null,
    chromaKey: null,
    ...settings,
    id: makeIdentifier(),
    kind,
    name: freeName(label, names),
  }
}

/** The layer that puts a source in front of a scene, at its own size in the middle, shown on the named canvases. */
export function newLayer(
  { canvasPair }: Pick<Show, 'canvasPair'>,
  source: Source,
  makeIdentifier: MakeIdentifier,
  shownOn: readonly CanvasName[] = ['landscape', 'vertical'],
): Layer {
  const native = nativeSizeOf(source)
  return {
    id: makeIdentifier(),
    sourceId: source.id,
    landscape: newPlacement(native, canvasPair.landscape, shownOn.includes('landscape')),
    vertical: newPlacement(native, canvasPair.vertical, shownOn.includes('vertical')),
  }
}

/** The sources that no scene uses any more. */
export function unusedSources(show: Pick<Show, 'sources' | 'scenes'>): Source[] {
  const used = new Set(show.scenes.flatMap(({ layers }) => layers.map(({ sourceId }) => sourceId)))
  return show.sources.filter(({ id }) => !used.has(id))
}

type Picture = Pick<Source, 'appearance' | 'nativeWidth' | 'nativeHeight' | 'nativeFramesPerSecond'>

/**
 * The show with another picture for a source. Its trims and its focus are in the picture's own
 * pixels, so they are scaled to the new size; what is on the canvases stays where it is.
 */
export function withPicture(show: Show, sourceId: string, picture: Picture): Show {
  const before = show.sources.find(({ id }) => id === sourceId)
  if (!before) return show
  const across = picture.nativeWidth / before.nativeWidth
  const down = picture.nativeHeight / before.nativeHeight
  const scaledTrim = ({ left, top, right, bottom }: Placement['trim']): Placement['trim'] => ({
    left: left * across,
    top: top * down,
    right: right * across,
    bottom: bottom * down,
  })
  const { focus } = before
  const source: Source = {
    ...before,
    ...picture,
    focus: focus && {
      x: focus.x * across,
      y: focus.y * down,
      width: Math.max(1, focus.width * across),
      height: Math.max(1, focus.height * down),
    },
  }
  return {
    ...show,
    sources: show.sources.map((other) => (other === before ? source : other)),
    scenes: show.scenes.map((scene) => ({
      ...scene,
      layers: scene.layers.map((layer) =>
        layer.sourceId === sourceId
          ? {
              ...layer,
              landscape: { ...layer.landscape, trim: scaledTrim(layer.landscape.trim) },
              vertical: { ...layer.vertical, trim: scaledTrim(layer.vertical.trim) },
            }
          : layer,
      ),
    })),
  }
}
