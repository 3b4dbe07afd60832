import {
  type Appearance,
  type CanvasName,
  canvasNames,
  freeName,
  newLayer,
  newSource,
  type Source,
  type SourceKind,
  withPicture,
} from '@green-mantle/core/show'
import type { Beginning } from '@green-mantle/core/practice'
import { useLocalStorage } from '@vueuse/core'
import { current } from 'immer'
import { nanoid } from 'nanoid'
import { useSelectionStore } from '~/stores/selection'
import { useShowStore } from '~/stores/show'
import { useSceneEdits } from './sceneEdits'

const makeIdentifier = (): string => nanoid(12)

export const placeOnChoices = ['both', 'landscape', 'vertical'] as const
export type PlaceOn = (typeof placeOnChoices)[number]

/** Where practice puts things; loaded when something is first added. */
const practice = () => import('@green-mantle/core/practice')

type Changes = Partial<Record<string, string | number | boolean>>

/** What can be done to the sources themselves; an edit here shows in every scene that uses them. */
export function useSources() {
  const store = useShowStore()
  const selection = useSelectionStore()
  const { editScene } = useSceneEdits()
  /** Asked once, in the menu; kept until it is changed there. */
  const placeOn = useLocalStorage<PlaceOn>('green-mantle.place-on', 'both')

  const canvasesToPlaceOn = (): readonly CanvasName[] =>
    placeOn.value === 'both' ? canvasNames : [placeOn.value]

  async function add(kind: SourceKind, settings: Partial<Source> = {}): Promise<void> {
    const { withAddedByPractice } = await practice()
    const source = newSource(store.show, kind, makeIdentifier, settings)
    const layer = newLayer(store.show, source, makeIdentifier, canvasesToPlaceOn())
    editScene(`Add ${source.name}`, (scene, draft) => {
      draft.sources.push(source)
      scene.layers = withAddedByPractice(current(draft), current(scene), layer)
    })
    selection.layerId = layer.id
  }

  /** Places a source that the show has already in the scene in hand. */
  async function addExisting(sourceId: string): Promise<void> {
    const { withAddedByPractice } = await practice()
    const source = selection.sourcesById.get(sourceId)
    if (!source) return
    const layer = newLayer(store.show, source, makeIdentifier, canvasesToPlaceOn())
    editScene(`Place ${source.name}`, (scene, draft) => {
      scene.layers = withAddedByPractice(current(draft), current(scene), layer)
    })
    selection.layerId = layer.id
  }

  /** What the scene in hand usually begins with, on both canvases, in one step of undo. */
  async function begin(beginning: Beginning): Promise<void> {
    const { begun } = await practice()
    const { sources, layers } = begun(store.show, beginning, makeIdentifier)
    editScene(`Begin with ${beginning.label.toLowerCase()}`, (scene, draft) => {
      draft.sources.push(...sources)
      scene.layers = layers
    })
    selection.layerId = layers[0]?.id
  }

  /** A source of its own with the same settings and the same standing, in front of the first. */
  function duplicateSource(): void {
    const chosen = selection.selected
    if (!chosen) return
    const names = store.show.sources.map(({ name }) => name)
    const source = {
      ...chosen.source,
      id: makeIdentifier(),
      name: freeName(chosen.source.name.slice(0, 190), names),
    }
    const layer = { ...chosen.layer, id: makeIdentifier(), sourceId: source.id }
    editScene(`Duplicate ${chosen.source.name}`, (scene, draft) => {
      draft.sources.push(source)
      scene.layers.splice(chosen.index, 0, layer)
    })
    selection.layerId = layer.id
  }

  function edit(
    sourceId: string,
    label: string,
    recipe: (source: Source) => void,
    mergeKey?: string,
  ) {
    const name = selection.sourcesById.get(sourceId)?.name ?? 'a source'
    store.edit(
      `${label} ${name}`,
      (draft) => {
        const source = draft.sources.find(({ id }) => id === sourceId)
        if (source) recipe(source)
      },
      mergeKey === undefined ? {} : { mergeKey },
    )
  }

  function setAppearance(sourceId: string, changes: Changes): void {
    edit(sourceId, 'Change', (source) => {
      source.appearance = { ...source.appearance, ...changes } as Appearance
    })
  }

  /**
   * Gives a source another picture of its own size. Trims and the focus are in its pixels, so they
   * are scaled along.
   */
  function setPicture(
    sourceId: string,
    picture: Pick<Source, 'appearance' | 'nativeWidth' | 'nativeHeight' | 'nativeFramesPerSecond'>,
    label: string,
  ): void {
    const name = selection.sourcesById.get(sourceId)?.name ?? 'a source'
    store.edit(`${label} ${name}`, (draft) => withPicture(draft, sourceId, picture))
  }

  return { placeOn, add, addExisting, begin, duplicateSource, edit, setAppearance, setPicture }
}
