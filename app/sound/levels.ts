import { levelOfSamples, silenceDecibels, standInLevel } from '@green-mantle/core/sound'
import type { Sound } from '@green-mantle/core/show'
import { useIntervalFn } from '@vueuse/core'
import { onBeforeUnmount, ref, shallowRef, watch } from 'vue'
import { askToHear, listInputs, type SoundInput } from './inputs'

interface Heard {
  key: string
  level(): number
  stop(): void
}

const drawEveryMilliseconds = 100

const keyOf = (sound: Sound): string =>
  [sound.input, sound.noiseSuppression, sound.channels].join(' ')

async function hearDevice(sound: Sound, deviceId: string, context: AudioContext): Promise<Heard> {
  const stream = await navigator.mediaDevices.getUserMedia({
    audio: {
      deviceId: { exact: deviceId },
      noiseSuppression: sound.noiseSuppression,
      channelCount: sound.channels,
    },
  })
  // Stopped while the browser was still asked for it.
  if (context.state === 'closed') {
    for (const track of stream.getTracks()) track.stop()
    throw new Error('Nobody listens any more.')
  }
  const analyser = context.createAnalyser()
  context.createMediaStreamSource(stream).connect(analyser)
  const samples = new Float32Array(analyser.fftSize)
  return {
    key: keyOf(sound),
    level() {
      analyser.getFloatTimeDomainData(samples)
      return levelOfSamples(samples)
    },
    stop() {
      for (const track of stream.getTracks()) track.stop()
    },
  }
}

function hearStandIn(sound: Sound): Heard {
  return {
    key: keyOf(sound),
    level: () => standInLevel(sound.input, performance.now() / 1000),
    stop: () => undefined,
  }
}

/** The inputs there are, and while listening the level of each sound's own, in dBFS before its level is set. */
export function useLevels(sounds: () => readonly Sound[]) {
  const inputs = shallowRef<SoundInput[]>([])
  const isListening = ref(false)
  const levels = shallowRef(new Map<string, number>())
  const heard = new Map<string, Heard>()
  let context: AudioContext | undefined

  async function refresh(): Promise<void> {
    inputs.value = await listInputs()
  }
  void refresh()

  async function hear(): Promise<void> {
    for (const sound of sounds()) {
      if (heard.get(sound.id)?.key === keyOf(sound)) continue
      heard.get(sound.id)?.stop()
      const input = inputs.value.find(({ name }) => name === sound.input)
      heard.set(sound.id, hearStandIn(sound))
      if (!input?.deviceId || !context) continue
      try {
        heard.set(sound.id, await hearDevice(sound, input.deviceId, context))
      } catch {
        // An input that is gone or taken by another program is silent, which is what it gives.
      }
    }
  }

  const drawing = useIntervalFn(
    () => {
      levels.value = new Map(
        sounds().map(({ id }) => [id, heard.get(id)?.level() ?? silenceDecibels]),
      )
    },
    drawEveryMilliseconds,
    { immediate: false },
  )

  async function listen(): Promise<void> {
    isListening.value = true
    // Made while the click is still fresh, or the browser would keep it suspended.
    context = new AudioContext()
    await askToHear()
    await refresh()
    await context.resume()
    await hear()
    drawing.resume()
  }

  function stop(): void {
    isListening.value = false
    drawing.pause()
    for (const one of heard.values()) one.stop()
    heard.clear()
    void context?.close()
    context = undefined
    levels.value = new Map()
  }

  watch(sounds, () => {
    if (isListening.value) void hear()
  })
  onBeforeUnmount(stop)

  return { inputs, isListening, levels, listen, stop }
}
