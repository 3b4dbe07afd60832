import {
  type CanvasName,
  canvasNames,
  type Show,
  type Size,
  type Source,
  onBoth,
  transitionTo,
} from '@green-mantle/core/show'
import { lanesOf, newLoudness, triedInWords, type Loudness } from '@green-mantle/core/on-air'
import { useEventListener, useIntervalFn } from '@vueuse/core'
import { transfer } from 'comlink'
import { defineStore } from 'pinia'
import { computed, ref, shallowReactive, shallowRef, watch } from 'vue'
import { isCamera, playedFilm, stillOf, useDevices, wantsDevice, framesOf } from '~/onAir/devices'
import { drawnShow } from '~/onAir/drawnShow'
import { shippedFonts } from '~/onAir/shippedFonts'
import { newSoundGraph, type SoundGraph } from '~/onAir/soundGraph'
import type { DrawingState } from '~/onAir/wireTypes'
import { askToHear } from '~/sound/inputs'
import { newOnAirWorker } from '~/workers/workers'
import { useNightLogStore } from './nightLog'
import { useShowStore } from './show'

const lookMilliseconds = 500
const meterMilliseconds = 100
const tryMilliseconds = 10_000
const mostFadeMilliseconds = 2000
const nothingDrawn: DrawingState = {
  frames: onBoth(() => ({ drawn: 0, due: 0, late: 0 })),
  lateInAll: { drawing: 0, encoder: 0, connection: 0 },
  drawnInAll: 0,
  connection: 'none',
  wanted: [],
  problem: '',
}

const newMeters = () => ({ live: newLoudness(), archive: newLoudness() })

/** What browsers need for it, by asking for each. */
export function missingForOnAir(): string[] {
  const has = globalThis as unknown as Record<string, unknown>
  const parts = ['VideoEncoder', 'OffscreenCanvas', 'MediaStreamTrackProcessor', 'AudioWorkletNode']
  return parts.filter((name) => has[name] === undefined)
}

/** The on-air window: devices, both canvases as they are drawn, and what goes to the server of them. */
export const useOnAirStore = defineStore('on air', () => {
  const store = useShowStore()
  const log = useNightLogStore()
  const state = shallowRef<DrawingState>(nothingDrawn)
  const problem = ref('')
  const isOpen = ref(false)
  /** Which scene is drawn where no night is under way. */
  const rehearsedSceneId = ref<string>()
  const preparedId = ref<string>()
  const loudness = shallowRef<{ live: Loudness; archive: Loudness }>()
  const isHeard = ref(false)
  const films = shallowReactive(new Map<string, HTMLVideoElement>())
  /** By microphone's name, its stream. */
  const microphones = shallowReactive(new Map<string, MediaStream>())

  let worker: ReturnType<typeof newOnAirWorker> | undefined
  let graph: SoundGraph | undefined
  /** What is drawn; edits made elsewhere wait until they are taken. */
  const drawn = shallowRef<Show>()

  const devices = useDevices((source, stream) => {
    const frames = stream && framesOf(stream)
    void worker?.remote.setFrames(source.id, frames && transfer(frames, [frames]))
    setSounds()
  })

  const isNight = computed(() => log.state.begunAt !== null && log.state.overAt === null)
  const sceneId = computed(
    () =>
      (isNight.value ? log.state.sceneId : null) ??
      rehearsedSceneId.value ??
      store.show.scenes[0]?.id,
  )
  const sourcesWithDevice = computed(() => (drawn.value?.sources ?? []).filter(wantsDevice))

  function setSounds(): void {
    const show = drawn.value
    graph?.set(show?.sounds ?? [], (sound) => {
      const film = sound.sourceId === null ? undefined : films.get(sound.sourceId)
      if (film) return film
      const own = sound.sourceId === null ? undefined : devices.devices.get(sound.sourceId)?.stream
      if (own && own.getAudioTracks().length > 0) return own
      if (sound.kind === 'computer sound')
        return [...devices.devices.values()].find(
          ({ stream }) => stream.getAudioTracks().length > 0,
        )?.stream
      return microphones.get(sound.input)
    })
  }

  async function giveStill(source: Source): Promise<void> {
    try {
      const bitmap = await stillOf(source)
      if (bitmap) await worker?.remote.setStill(source.id, transfer(bitmap, [bitmap]))
    } catch {
      // A picture that is not there is drawn as the stage draws it: as a plain card.
    }
  }

  function giveFilms(show: Show): void {
    for (const { id, appearance } of show.sources) {
      if (appearance.type !== 'media file' || films.has(id)) continue
      const element = playedFilm(appearance.fileId)
      films.set(id, element)
      element.addEventListener(
        'loadeddata',
        () => {
          void element.play().catch(() => {})
          const frames = framesOf(element.captureStream())
          if (frames) void worker?.remote.setFrames(id, transfer(frames, [frames]))
        },
        { once: true },
      )
    }
  }

  /** Hands over what is drawn from now on. */
  async function draw(show: Show): Promise<void> {
    const before = drawn.value
    drawn.value = show
    const known = new Map(before?.sources.map((source) => [source.id, source]))
    await worker?.remote.setShow(drawnShow(show))
    await Promise.all(
      show.sources
        .filter((source) => known.get(source.id)?.appearance !== source.appearance)
        .map(giveStill),
    )
    giveFilms(show)
    setSounds()
  }

  /** How long a scene takes to come. */
  function fadeMillisecondsTo(id: string | undefined): number {
    const scene = store.show.scenes.find((each) => each.id === id)
    const { kind, milliseconds } = transitionTo(store.show, scene)
    return kind === 'fade' ? Math.min(mostFadeMilliseconds, milliseconds) : 0
  }

  /** Brings a scene on air, on both canvases in one frame; `cuts`: at once, whatever the show fades. */
  function take(id: string, { cuts = false } = {}): void {
    const scene = store.show.scenes.find((each) => each.id === id)
    preparedId.value = undefined
    if (!scene || id === sceneId.value) return
    rehearsedSceneId.value = id
    nextFade = cuts ? 0 : fadeMillisecondsTo(id)
    if (isNight.value) log.happened({ kind: 'scene', sceneId: id, name: scene.name })
  }
  let nextFade: number | undefined
  watch(sceneId, (id) => {
    if (id !== undefined) void worker?.remote.setScene(id, nextFade ?? fadeMillisecondsTo(id))
    nextFade = undefined
  })

  let meters = newMeters()
  const metering = useIntervalFn(
    () => (loudness.value = { live: meters.live.loudness(), archive: meters.archive.loudness() }),
    meterMilliseconds,
    { immediate: false },
  )
  async function hear(): Promise<void> {
    if (!graph) meters = newMeters()
    graph ??= await newSoundGraph((block) => {
      for (const mix of ['live', 'archive'] as const) {
        const samples = block[mix]
        for (let at = 0; at + 1 < samples.length; at += 2)
          meters[mix].take((samples[at] as number) / 32_768, (samples[at + 1] as number) / 32_768)
      }
    })
    metering.resume()
    const { port1, port2 } = new MessageChannel()
    graph.handTo(port1)
    await worker?.remote.takeSoundFrom(transfer(port2, [port2]))
    await graph.resume()
    isHeard.value = graph.isRunning()
    await openMicrophones()
    setSounds()
  }

  /** The microphones that the show's sounds name; what the browser has none of is silent. */
  async function openMicrophones(): Promise<void> {
    const sounds = drawn.value?.sounds ?? []
    if (sounds.length === 0) return
    // Their names are told only once one was allowed to be heard.
    await askToHear()
    const all = await navigator.mediaDevices.enumerateDevices()
    for (const { input, noiseSuppression, channels } of sounds) {
      const device = all.find(({ kind, label }) => kind === 'audioinput' && label === input)
      if (!device || microphones.has(input)) continue
      try {
        const stream = await navigator.mediaDevices.getUserMedia({
          audio: {
            deviceId: { exact: device.deviceId },
            ...{ noiseSuppression, channelCount: channels },
            ...{ echoCancellation: false, autoGainControl: false },
          },
        })
        microphones.set(input, stream)
      } catch (error) {
        problem.value = `${input}: ${(error as Error).message}`
      }
    }
  }

  const looking = useIntervalFn(
    async () => {
      state.value = (await worker?.remote.state()) ?? nothingDrawn
    },
    lookMilliseconds,
    { immediate: false },
  )
  const isElsewhere = computed(() => state.value.connection === 'elsewhere')
  const takeOver = async (): Promise<void> => worker?.remote.connect(store.id, true)

  const seen = onBoth<Size | null>(() => null)
  /** How large a canvas is seen, in the screen's own points: what is shown is no larger. */
  function setSeen(canvas: CanvasName, size: Size): void {
    seen[canvas] = size
    void worker?.remote.setSeen(canvas, size)
  }

  /** Begins to draw on two canvases of the page; a worker draws from then on, whether the page is seen or not. */
  async function open(canvases: Record<CanvasName, HTMLCanvasElement>): Promise<void> {
    isOpen.value = true
    worker = newOnAirWorker()
    const surfaces = onBoth((name) => canvases[name].transferControlToOffscreen())
    const fonts = await shippedFonts()
    await worker.remote.begin(transfer(surfaces, Object.values(surfaces)), fonts)
    for (const canvas of canvasNames) setSeen(canvas, seen[canvas] ?? store.show.canvasPair[canvas])
    await draw(store.show as Show)
    if (sceneId.value !== undefined) await worker.remote.setScene(sceneId.value, 0)
    looking.resume()
    await worker.remote.connect(store.id, false)
    await devices.reopen(sourcesWithDevice.value)
  }
  useEventListener(navigator.mediaDevices, 'devicechange', () => {
    if (isOpen.value) void devices.reopen(sourcesWithDevice.value)
  })

  const isTrying = ref(false)
  const tried = ref<ReturnType<typeof triedInWords>>()
  /** Draws and encodes for ten seconds as if all were sent, and says whether that is done in time. */
  async function tryOut(): Promise<void> {
    if (!worker || isTrying.value) return
    isTrying.value = true
    try {
      const lanes = lanesOf(store.show as Show)
      tried.value = triedInWords(await worker.remote.tryOut(lanes, tryMilliseconds))
    } finally {
      isTrying.value = false
    }
  }

  async function close(): Promise<void> {
    isOpen.value = false
    looking.pause()
    metering.pause()
    worker?.end()
    worker = undefined
    for (const film of films.values()) film.removeAttribute('src')
    films.clear()
    for (const stream of microphones.values()) for (const track of stream.getTracks()) track.stop()
    microphones.clear()
    await graph?.end()
    graph = undefined
    drawn.value = undefined
    state.value = nothingDrawn
  }

  return {
    setSeen,
    ...{ state, problem, isElsewhere, sceneId, preparedId, loudness, isHeard, isNight, drawn },
    ...{ devices, sourcesWithDevice, fadeMillisecondsTo, isCamera },
    ...{ open, close, takeOver, take, draw, hear, tryOut, isTrying, tried },
    prepare: (id: string) => (preparedId.value = preparedId.value === id ? undefined : id),
  }
})
