import { hexFromColour } from '@green-mantle/core/picture'
import type { Source } from '@green-mantle/core/show'
import { unkeyedPictureOf } from './sourcePictures'

const reader = document.createElement('canvas')
/** Averaged over this many pixels a side, since a camera's pixels are noisy. */
const sampleSide = 5

/** The colour of a source's picture about one of its own pixels, as #rrggbb; undefined where there is no picture. */
export function colourAt(source: Source, pixel: { x: number; y: number }): string | undefined {
  const picture = unkeyedPictureOf(source)
  const isVideo = picture instanceof HTMLVideoElement
  const width = isVideo ? picture.videoWidth : (picture?.width ?? 0)
  const height = isVideo ? picture.videoHeight : (picture?.height ?? 0)
  if (!picture || width === 0) return undefined
  reader.width = reader.height = 1
  const context = reader.getContext('2d', { willReadFrequently: true })
  const x = Math.min(width - sampleSide, Math.max(0, (pixel.x / source.nativeWidth) * width - 2))
  const y = Math.min(height - sampleSide, Math.max(0, (pixel.y / source.nativeHeight) * height - 2))
  context?.drawImage(picture, x, y, sampleSide, sampleSide, 0, 0, 1, 1)
  const [red = 0, green = 0, blue = 0] = context?.getImageData(0, 0, 1, 1).data ?? []
  return hexFromColour({ red: red / 255, green: green / 255, blue: blue / 255 })
}
