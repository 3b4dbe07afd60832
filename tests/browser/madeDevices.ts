import type { Page } from '@playwright/test'

/** Sounds that a page is given as microphones: by name the tone, and its amplitude. */
export const madeSounds = {
  'Made tone': { hertz: 440, amplitude: 0.5 },
  'Made music': { hertz: 3000, amplitude: 0.1 },
  /** Heard for 50 ms whenever the camera flashes. */
  'Made click': { hertz: 6000, amplitude: 0.3 },
} as const
const madeCamera = 'Made camera'
export const flashEverySeconds = 1

/**
 * Gives a page devices that can be pulled out: a red camera, which flashes white for 50 ms every second where
 * `flashes`, and the made sounds. `unplug` ends the camera as a browser does when it is pulled out.
 */
export async function makeDevices(page: Page, { flashes = false } = {}) {
  await page.addInitScript(
    ({ camera, sounds, everySeconds, flashing }) => {
      const { mediaDevices } = navigator
      const surface = document.createElement('canvas')
      ;[surface.width, surface.height] = [320, 180]
      const painter = surface.getContext('2d')!
      const clicks: GainNode[] = []
      let isThere = true
      let running: MediaStreamTrack[] = []
      let second = 0
      function paint(colour: string): void {
        painter.fillStyle = colour
        painter.fillRect(0, 0, surface.width, surface.height)
      }
      // Painted again and again, since a canvas gives frames only when it changes.
      setInterval(() => {
        const now = performance.now() / 1000 / everySeconds
        const isFlash = flashing && now % 1 < 0.05
        paint(isFlash ? '#ffffff' : '#c02020')
        if (!isFlash || second === Math.floor(now)) return
        second = Math.floor(now)
        for (const { gain, context } of clicks) {
          gain.setValueAtTime(1, context.currentTime)
          gain.setValueAtTime(0, context.currentTime + 0.05)
        }
      }, 8)
      function heard(name: keyof typeof sounds): MediaStream {
        const context = new AudioContext({ sampleRate: 48_000 })
        const tone = new OscillatorNode(context, { frequency: sounds[name].hertz })
        const level = new GainNode(context, { gain: sounds[name].amplitude })
        const gate = new GainNode(context, { gain: name === 'Made click' ? 0 : 1 })
        if (name === 'Made click') clicks.push(gate)
        const out = new MediaStreamAudioDestinationNode(context)
        tone.connect(level).connect(gate).connect(out)
        tone.start()
        return out.stream
      }
      const listed = (kind: MediaDeviceKind, label: string) =>
        ({ kind, label, deviceId: label, groupId: label }) as MediaDeviceInfo
      mediaDevices.enumerateDevices = async () => [
        ...(isThere ? [listed('videoinput', camera)] : []),
        ...Object.keys(sounds).map((name) => listed('audioinput', name)),
      ]
      mediaDevices.getUserMedia = async ({ audio, video } = {}) => {
        if (!video) {
          const wanted = typeof audio === 'object' ? audio.deviceId : undefined
          const { exact } = (wanted ?? { exact: Object.keys(sounds)[0] }) as { exact: string }
          return heard(exact as keyof typeof sounds)
        }
        const stream = surface.captureStream(30)
        const [track] = stream.getVideoTracks()
        Object.defineProperty(track, 'label', { value: camera })
        running.push(track!)
        return stream
      }
      Object.assign(globalThis, {
        unplug(): void {
          isThere = false
          for (const track of running) {
            track.stop()
            track.dispatchEvent(new Event('ended'))
          }
          running = []
          mediaDevices.dispatchEvent(new Event('devicechange'))
        },
        plugIn(): void {
          isThere = true
          mediaDevices.dispatchEvent(new Event('devicechange'))
        },
      })
    },
    { camera: madeCamera, sounds: madeSounds, everySeconds: flashEverySeconds, flashing: flashes },
  )
  const call = (name: 'unplug' | 'plugIn') =>
    page.evaluate((each) => (globalThis as unknown as Record<string, () => void>)[each]!(), name)
  return { unplug: () => call('unplug'), plugIn: () => call('plugIn') }
}
