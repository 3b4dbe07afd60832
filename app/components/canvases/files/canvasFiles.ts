import {
  canvasSvgLimitBytes,
  fittedInBox,
  type SvgItem,
  writeCanvasSvg,
} from '@green-mantle/core/svg-writer'
import {
  type CanvasName,
  type Layer,
  newLayer,
  newSource,
  nativeSizeOf,
} from '@green-mantle/core/show'
import { nanoid } from 'nanoid'
import { storeFile } from '~/api/files'
import { wordsFor } from '~/api/problem'
import { chooseTextFile, download, fileNameFor } from '~/composables/files'
import { measureWords } from '~/pictures/measureWords'
import { addressOf } from '~/pictures/sourcePictures'
import { useSelectionStore } from '~/stores/selection'
import { useShowStore } from '~/stores/show'
import { useToastStore } from '~/stores/toasts'
import { readingWorker } from '~/workers/workers'
import { useSceneEdits } from '../editing/sceneEdits'

const makeIdentifier = (): string => nanoid(12)

async function dataAddress(address: string): Promise<string> {
  const blob = await (await fetch(address)).blob()
  return new Promise((resolve, reject) => {
    const reader = new FileReader()
    reader.onload = () => resolve(String(reader.result))
    reader.onerror = () => reject(reader.error as Error)
    reader.readAsDataURL(blob)
  })
}

/** The canvases of the scene in hand as pictures that other programs open, and such pictures back as placements. */
export function useCanvasFiles() {
  const store = useShowStore()
  const selection = useSelectionStore()
  const toasts = useToastStore()
  const { canAlter, editScene } = useSceneEdits()

  const nameFor = (canvas: CanvasName, ending: string): string =>
    `${fileNameFor(`${store.show.title}, ${selection.scene.name}, ${canvas}`)}.${ending}`

  async function tellFailure(what: string, work: () => Promise<void>): Promise<void> {
    try {
      await work()
    } catch (error) {
      toasts.tell(`${what} ${wordsFor(error)}`, { tone: 'fails' })
    }
  }

  const savePng = (canvas: CanvasName): Promise<void> =>
    tellFailure('The picture could not be made.', async () => {
      const { renderCanvas } = await import('./renderCanvas')
      const picture = await renderCanvas(store.show, selection.layersOn(canvas), canvas)
      const blob = await new Promise<Blob | null>((resolve) => picture.toBlob(resolve, 'image/png'))
      if (!blob) throw new Error('This browser makes no PNG of this size.')
      download(nameFor(canvas, 'png'), 'image/png', blob)
    })

  const saveSvg = (canvas: CanvasName): Promise<void> =>
    tellFailure('The picture could not be made.', async () => {
      const layers = selection.layersOn(canvas)
      const pictures = new Map<string, string>()
      for (const { sourceId } of layers) {
        const source = selection.sourcesById.get(sourceId)
        const address = source && addressOf(source)
        if (address && !pictures.has(sourceId)) pictures.set(sourceId, await dataAddress(address))
      }
      const title = `${store.show.title}: ${selection.scene.name}, ${canvas}`
      const svg = writeCanvasSvg(store.show, layers, canvas, title, pictures, measureWords)
      download(nameFor(canvas, 'svg'), 'image/svg+xml', svg)
    })

  /** A picture that came inside the SVG, stored as the person's own file. */
  async function storedPicture(item: SvgItem): Promise<Partial<SvgItem['source']>> {
    if (!item.picture) return {}
    const blob = await (await fetch(item.picture)).blob()
    const stored = await storeFile(blob, blob.type.split(';')[0] as string)
    return {
      nativeWidth: stored.width ?? 1,
      nativeHeight: stored.height ?? 1,
      nativeFramesPerSecond: null,
      appearance: { type: 'picture file', fileId: stored.id, fileName: `${item.source.name}` },
    }
  }

  const openSvg = (canvas: CanvasName): Promise<void> =>
    tellFailure('The SVG was not taken.', async () => {
      if (!canAlter(canvas)) return
      const file = await chooseTextFile('.svg,image/svg+xml', canvasSvgLimitBytes)
      if (!file) return
      const read = await readingWorker().readCanvasSvg(file.text, store.show.canvasPair[canvas])
      if (!read.ok) throw new Error(`${file.name}: ${read.message}. The scene stays as it was.`)
      const pictures = await Promise.all(read.items.map(storedPicture))
      const layers: Layer[] = []
      editScene(`Place ${file.name} on ${canvas}`, (scene, draft) => {
        read.items.forEach((item, index) => {
          const { kind, ...settings } = item.source
          const source = newSource(draft, kind, makeIdentifier, { ...settings, ...pictures[index] })
          draft.sources.push(source)
          const layer = newLayer(draft, source, makeIdentifier, [])
          layer[canvas] = item.keepsProportions
            ? fittedInBox(item.placement, nativeSizeOf(source))
            : item.placement
          layers.push(layer)
        })
        scene.layers.unshift(...layers)
      })
      selection.layerIds = layers.map(({ id }) => id)
      const missed = read.notTaken.length > 0 ? ` Not taken: ${read.notTaken.join('; ')}.` : ''
      toasts.tell(`${layers.length} placed from ${file.name}.${missed}`, {
        tone: missed ? 'fails' : 'plain',
      })
    })

  return { savePng, saveSvg, openSvg }
}
