import {
  limitBytes,
  mediaLimits,
  mediaTypes,
  pictureLimits,
  pictureTypes,
  svgLimits,
} from '@green-mantle/core/picture'
import type { Source } from '@green-mantle/core/show'
import { storeFile } from '~/api/files'
import { wordsFor } from '~/api/problem'
import { chooseFile, typeOfFile } from '~/composables/files'
import { forgetPicture, fileAddress } from '~/pictures/stillPictures'
import { useSelectionStore } from '~/stores/selection'
import { useToastStore } from '~/stores/toasts'
import { useSources } from './sources'

type Picture = Pick<Source, 'appearance' | 'nativeWidth' | 'nativeHeight' | 'nativeFramesPerSecond'>

const megabytes = (bytes: number): string => `${bytes / 1_000_000} MB`
const limitsInWords = `Pictures: PNG, JPEG, WebP to ${megabytes(pictureLimits.bytes)} and ${pictureLimits.sidePixels} px a side, SVG to ${megabytes(svgLimits.bytes)}. Media files to ${megabytes(mediaLimits.bytes)}.`

/** "bench view.final.png" → "bench view.final". */
const withoutEnding = (name: string): string => name.replace(/\.[^.]+$/, '').slice(0, 190) || name

/** Brings a person's own pictures and moving pictures into the show. */
export function useOwnFiles() {
  const sources = useSources()
  const selection = useSelectionStore()
  const toasts = useToastStore()

  async function readPicture(file: File): Promise<Picture> {
    const stored = await storeFile(file, typeOfFile(file))
    forgetPicture(fileAddress(stored.id))
    if (stored.removed.length > 0)
      toasts.tell(`Taken out of ${file.name}: ${stored.removed.join(', ')}.`)
    return {
      nativeWidth: stored.width ?? 1,
      nativeHeight: stored.height ?? 1,
      nativeFramesPerSecond: null,
      appearance: { type: 'picture file', fileId: stored.id, fileName: file.name.slice(0, 200) },
    }
  }

  async function readMedia(file: File): Promise<Picture> {
    // The media library is large, so it is loaded where it is first needed.
    const { readMediaFile } = await import('~/pictures/readMediaFile')
    const facts = await readMediaFile(file)
    const stored = await storeFile(file, typeOfFile(file))
    return {
      nativeWidth: facts.width,
      nativeHeight: facts.height,
      nativeFramesPerSecond: facts.framesPerSecond,
      appearance: {
        type: 'media file',
        fileId: stored.id,
        fileName: file.name.slice(0, 200),
        durationSeconds: facts.durationSeconds,
        codec: facts.codec,
      },
    }
  }

  async function choose(
    accept: readonly string[],
    read: (file: File) => Promise<Picture>,
    use: (picture: Picture, file: File) => void,
  ): Promise<void> {
    const file = await chooseFile(accept.join(','))
    if (!file) return
    const limit = limitBytes(typeOfFile(file))
    if (limit === null || file.size > limit) {
      toasts.tell(
        limit === null
          ? `${file.name} is of a kind that is not taken. ${limitsInWords}`
          : `${file.name} has ${megabytes(file.size)}; at most ${megabytes(limit)} are taken.`,
        { tone: 'fails' },
      )
      return
    }
    try {
      use(await read(file), file)
    } catch (error) {
      toasts.tell(`${file.name} was not taken. ${wordsFor(error)}`, { tone: 'fails' })
    }
  }

  const addWith =
    (kind: 'picture' | 'media file') =>
    (picture: Picture, file: File): void => {
      void sources.add(kind, { ...picture, name: withoutEnding(file.name) })
    }

  const choosePicture = (): Promise<void> => choose(pictureTypes, readPicture, addWith('picture'))
  const chooseMedia = (): Promise<void> =>
    choose([...mediaTypes, '.mkv', '.mov'], readMedia, addWith('media file'))

  /** Another file for the chosen source; trims, focus and standing stay. */
  async function replaceFile(): Promise<void> {
    const source = selection.selected?.source
    if (!source) return
    const isMedia = source.kind === 'media file'
    await choose(
      isMedia ? [...mediaTypes, '.mkv', '.mov'] : pictureTypes,
      isMedia ? readMedia : readPicture,
      (picture) => sources.setPicture(source.id, picture, 'Change the file of'),
    )
  }

  return { choosePicture, chooseMedia, replaceFile, limitsInWords }
}
