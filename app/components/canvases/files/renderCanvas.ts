import { nativeSizeOf } from '@green-mantle/core/show'
import type { CanvasName, Layer, Show, Source } from '@green-mantle/core/show'
import Konva from 'konva'
import { makeKeyer } from '@green-mantle/core/picture'
import { addressOf, pictureOf } from '~/pictures/sourcePictures'
import { fullPicture } from '~/pictures/stillPictures'
import { flipConfig, groupConfig, shapesOf } from '../stage/placementNode'

const shapeOf = { 'v-image': Konva.Image, 'v-rect': Konva.Rect, 'v-text': Konva.Text } as const

/** A source's picture in its own pixels, keyed where that is set; what moves is taken as it is at the moment. */
async function fullPictureOf(source: Source): Promise<CanvasImageSource | undefined> {
  const address = addressOf(source)
  if (!address) return pictureOf(source, source.nativeWidth)
  const { width, height } = nativeSizeOf(source)
  const picture = await fullPicture(address, width, height)
  const context = picture.getContext('2d')
  if (!source.chromaKey?.on || !context) return picture
  const image = context.getImageData(0, 0, width, height)
  makeKeyer(source.chromaKey)(image.data)
  context.putImageData(image, 0, 0)
  return picture
}

/** Draws one canvas of a scene at its full size. `layers` are those on air, front to back. */
export async function renderCanvas(
  show: Show,
  layers: readonly Layer[],
  canvas: CanvasName,
): Promise<HTMLCanvasElement> {
  const size = show.canvasPair[canvas]
  const sources = new Map(show.sources.map((source) => [source.id, source]))
  const shown = layers.filter((layer) => layer[canvas].shown).toReversed()
  const used = [...new Set(shown.map(({ sourceId }) => sourceId))]
  const pictures = new Map(
    await Promise.all(
      used.map(async (id) => {
        const source = sources.get(id) as Source
        return [id, await fullPictureOf(source).catch(() => undefined)] as const
      }),
    ),
  )
  await document.fonts.ready
  const stage = new Konva.Stage({ container: document.createElement('div'), ...size })
  const drawing = new Konva.Layer()
  stage.add(drawing)
  drawing.add(new Konva.Rect({ ...size, fill: '#0b120e' }))
  for (const layer of shown) {
    const source = sources.get(layer.sourceId)
    if (!source) continue
    const placement = layer[canvas]
    const inside = new Konva.Group(flipConfig(placement))
    const picturing = { placement, source, dressing: show.dressing, canvas: size }
    for (const { kind, config } of shapesOf(picturing, () => pictures.get(source.id)))
      inside.add(new shapeOf[kind](config as never))
    const group = new Konva.Group(groupConfig(placement))
    group.add(inside)
    drawing.add(group)
  }
  drawing.draw()
  const result = drawing.toCanvas({ pixelRatio: 1 })
  stage.destroy()
  return result
}
