import type { Sound } from '@green-mantle/core/show'
import { onAirSound } from '@green-mantle/core/on-air'
import workletAddress from './mixing.worklet.ts?worker&url'

/** What gives a sound its samples: a stream of a device, or a film that plays. */
type Origin = MediaStream | HTMLMediaElement
interface Connected {
  origin: Origin
  node: AudioNode
  delay: DelayNode
  gain: GainNode
  key: string
}

const mixKey = ({ mixes, muted }: Sound): string => [mixes.live, mixes.archive, muted].join(' ')
const maxDelaySeconds = 5

/** Both mixes of a show as one graph: each sound with its level, delay and mute, into the mixes that it is for. */
export async function newSoundGraph(
  told: (block: { live: Int16Array; archive: Int16Array }) => void,
) {
  const context = new AudioContext({ sampleRate: onAirSound.sampleRateHz })
  await context.audioWorklet.addModule(workletAddress)
  const mixing = new AudioWorkletNode(context, 'mixing', {
    numberOfInputs: 2,
    numberOfOutputs: 0,
    channelCount: 2,
    channelCountMode: 'explicit',
  })
  mixing.port.onmessage = ({ data }) => told(data as { live: Int16Array; archive: Int16Array })
  const inputs = ['live', 'archive'] as const
  const connected = new Map<string, Connected>()
  const elements = new WeakMap<HTMLMediaElement, MediaElementAudioSourceNode>()

  function nodeOf(origin: Origin): AudioNode {
    if (origin instanceof MediaStream) return context.createMediaStreamSource(origin)
    const known = elements.get(origin) ?? context.createMediaElementSource(origin)
    elements.set(origin, known)
    return known
  }
  function disconnect(id: string): void {
    const one = connected.get(id)
    one?.gain.disconnect()
    one?.delay.disconnect()
    one?.node.disconnect(one.delay)
    connected.delete(id)
  }
  function connect(sound: Sound, origin: Origin): Connected {
    const node = nodeOf(origin)
    const delay = context.createDelay(maxDelaySeconds)
    const gain = context.createGain()
    node.connect(delay).connect(gain)
    if (!sound.muted)
      inputs.forEach((mix, index) => {
        if (sound.mixes[mix]) gain.connect(mixing, 0, index)
      })
    return { origin, node, delay, gain, key: mixKey(sound) }
  }

  return {
    /** Hands the blocks of both mixes to a worker. */
    handTo: (port: MessagePort): void => mixing.port.postMessage(null, [port]),
    resume: (): Promise<void> => context.resume(),
    isRunning: (): boolean => context.state === 'running',
    /** Brings the graph to what the show says; `originOf` is undefined for what has no device. */
    set(sounds: readonly Sound[], originOf: (sound: Sound) => Origin | undefined): void {
      const ids = new Set(sounds.map(({ id }) => id))
      for (const id of [...connected.keys()]) if (!ids.has(id)) disconnect(id)
      for (const sound of sounds) {
        const origin = originOf(sound)
        const before = connected.get(sound.id)
        if (before && (before.origin !== origin || before.key !== mixKey(sound)))
          disconnect(sound.id)
        if (!origin) continue
        const one = connected.get(sound.id) ?? connect(sound, origin)
        connected.set(sound.id, one)
        one.gain.gain.value = 10 ** (sound.levelDecibels / 20)
        one.delay.delayTime.value = sound.delayMilliseconds / 1000
      }
    },
    async end(): Promise<void> {
      for (const id of [...connected.keys()]) disconnect(id)
      await context.close()
    },
  }
}
export type SoundGraph = Awaited<ReturnType<typeof newSoundGraph>>
