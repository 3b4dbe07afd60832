import type { Source, SourceKind } from '@green-mantle/core/show'
import { useLocalStorage } from '@vueuse/core'
import { onScopeDispose, shallowReactive, shallowRef } from 'vue'
import { addressOf } from '~/pictures/sourcePictures'
import { fileAddress } from '~/pictures/stillPictures'

/** A source's real device: how it stands, and what it gives. */
export interface Device {
  state: 'here' | 'gone'
  label: string
  stream: MediaStream
  goneAt: number | null
}
const deviceKinds = [
  'camera',
  'screen',
  'window',
  'web page',
  'guest',
] as const satisfies readonly SourceKind[]
export const wantsDevice = ({ kind, appearance }: Source): boolean =>
  deviceKinds.some((each) => each === kind) && appearance.type !== 'media file'
export const isCamera = ({ kind }: Source): boolean => kind === 'camera' || kind === 'guest'

/** Stills are handed over no larger; a canvas is hardly ever wider. */
const maxStillWidth = 3840

/** A source's still picture in its own pixels; null where it has none. */
export async function stillOf(source: Source): Promise<ImageBitmap | null> {
  const address = addressOf(source)
  if (!address) return null
  const image = new Image()
  image.src = address
  await image.decode()
  const width = Math.min(source.nativeWidth, maxStillWidth)
  const height = Math.max(1, Math.round((width * source.nativeHeight) / source.nativeWidth))
  // An SVG is drawn at the size that is asked for, not made larger from its own.
  const surface = new OffscreenCanvas(width, height)
  surface.getContext('2d')?.drawImage(image, 0, 0, width, height)
  return surface.transferToImageBitmap()
}

export const framesOf = (stream: MediaStream): ReadableStream<VideoFrame> | null => {
  const [track] = stream.getVideoTracks()
  return track ? new MediaStreamTrackProcessor({ track, maxBufferSize: 2 }).readable : null
}

/** The devices of a show's sources, each chosen once; cameras are known again by their names. */
export function useDevices(given: (source: Source, stream: MediaStream | null) => void) {
  const devices = shallowReactive(new Map<string, Device>())
  const cameras = shallowRef<MediaDeviceInfo[]>([])
  const problem = shallowRef('')
  const names = useLocalStorage<Record<string, string>>('green-mantle.cameras', {})

  async function listCameras(): Promise<void> {
    const all = (await navigator.mediaDevices?.enumerateDevices?.().catch(() => [])) ?? []
    cameras.value = all.filter(({ kind, label }) => kind === 'videoinput' && label !== '')
  }

  function take(source: Source, stream: MediaStream): void {
    for (const track of devices.get(source.id)?.stream.getTracks() ?? []) track.stop()
    const [track] = stream.getVideoTracks()
    const label = track?.label ?? ''
    devices.set(source.id, { state: 'here', label, stream, goneAt: null })
    given(source, stream)
    track?.addEventListener('ended', () => {
      if (devices.get(source.id)?.stream !== stream) return
      devices.set(source.id, { state: 'gone', label, stream, goneAt: Date.now() })
    })
  }

  async function attempt(work: () => Promise<void>): Promise<void> {
    problem.value = ''
    try {
      await work()
    } catch (error) {
      const { name, message } = error as Error
      problem.value =
        name === 'NotAllowedError' ? 'The browser was not allowed to use it.' : message
    }
  }

  /** Opens a camera; the one that is remembered where none is named. */
  const openCamera = (source: Source, deviceId?: string): Promise<void> =>
    attempt(async () => {
      const remembered = cameras.value.find(({ label }) => label === names.value[source.id])
      const wanted = deviceId ?? remembered?.deviceId
      const stream = await navigator.mediaDevices.getUserMedia({
        video: {
          ...(wanted && { deviceId: { exact: wanted } }),
          width: { ideal: source.nativeWidth },
          height: { ideal: source.nativeHeight },
          frameRate: { ideal: source.nativeFramesPerSecond ?? 30 },
        },
      })
      take(source, stream)
      await listCameras()
      names.value = { ...names.value, [source.id]: stream.getVideoTracks()[0]?.label ?? '' }
    })

  /** A screen, a window or a tab, by the browser's own picker, with its sound where that is given. */
  const openScreen = (source: Source): Promise<void> =>
    attempt(async () =>
      take(source, await navigator.mediaDevices.getDisplayMedia({ video: true, audio: true })),
    )

  /** Cameras that were chosen before, once the browser tells their names; those that went, where they are back. */
  async function reopen(sources: readonly Source[]): Promise<void> {
    await listCameras()
    for (const source of sources) {
      const isHere = devices.get(source.id)?.state === 'here'
      const isKnown = cameras.value.some(({ label }) => label === names.value[source.id])
      if (isCamera(source) && !isHere && isKnown) await openCamera(source)
    }
  }

  function letGo(source: Source): void {
    for (const track of devices.get(source.id)?.stream.getTracks() ?? []) track.stop()
    devices.delete(source.id)
    given(source, null)
  }
  onScopeDispose(() => {
    for (const { stream } of devices.values()) for (const track of stream.getTracks()) track.stop()
  })

  return { devices, cameras, problem, openCamera, openScreen, reopen, letGo, listCameras }
}

/** A film of the show, played again and again; its picture goes out as frames, its sound into the mixes. */
export function playedFilm(fileId: string): HTMLVideoElement {
  const element = document.createElement('video')
  element.loop = true
  element.playsInline = true
  element.src = fileAddress(fileId)
  return element
}
