import { execFileSync } from 'node:child_process'

const sampleRateHz = 48_000
const framesPerSecond = 60
const decoded = (file: string, ...how: string[]): Buffer =>
  execFileSync('ffmpeg', ['-v', 'error', '-i', file, ...how, '-'], { maxBuffer: 1e9 })

/** The left channel of a file, from its time 0 on. */
export function soundOf(file: string): Float32Array {
  const how = ['-vn', '-af', 'aresample=async=1:first_pts=0,pan=mono|c0=c0']
  const bytes = decoded(file, ...how, '-ar', `${sampleRateHz}`, '-f', 'f32le')
  return new Float32Array(bytes.buffer, bytes.byteOffset, Math.floor(bytes.length / 4))
}

/** The amplitude of a tone in a stretch of sound (Goertzel 1958). */
function amplitudeOf(samples: Float32Array, hertz: number): number {
  const turn = 2 * Math.cos((2 * Math.PI * hertz) / sampleRateHz)
  let [before, last] = [0, 0]
  for (const sample of samples) [before, last] = [last, sample + turn * last - before]
  return (2 * Math.sqrt(before ** 2 + last ** 2 - turn * before * last)) / samples.length
}

/** Where sound is brought in step it is so much higher or lower for a while (`core/onAir/soundClock.ts`). */
const pitches = [0.996, 0.998, 1, 1.002, 1.004]

/** The amplitude of a tone in stretches of 50 ms, each at the pitch that it has there: of the softest share of them the loudest. */
export function amplitudeIn(samples: Float32Array, hertz: number, share = 0.5): number {
  const step = sampleRateHz / 20
  const amplitudes = Array.from({ length: Math.floor(samples.length / step) }, (_, index) => {
    const stretch = samples.subarray(index * step, (index + 1) * step)
    return Math.max(...pitches.map((pitch) => amplitudeOf(stretch, pitch * hertz)))
  }).sort((a, b) => a - b)
  return amplitudes[Math.floor(amplitudes.length * share)]!
}

/** The times at which something begins, of values that come so often a second. */
function beginnings(isOn: readonly boolean[], aSecond: number): number[] {
  return isOn.flatMap((on, index) => (on && index > 0 && !isOn[index - 1] ? [index / aSecond] : []))
}

/** When a tone begins, to within 5 ms. */
export function onsetsOf(samples: Float32Array, hertz: number, amplitude: number): number[] {
  const step = sampleRateHz / 200
  const stretches = Array.from({ length: Math.floor(samples.length / step) }, (_, index) =>
    samples.subarray(index * step, (index + 1) * step),
  )
  return beginnings(
    stretches.map((stretch) => amplitudeOf(stretch, hertz) > amplitude),
    200,
  )
}

/** When a file's picture turns white, to within a 60th of a second, by the times of its frames. */
export function flashesOf(file: string): number[] {
  const how = ['-an', '-vf', `fps=fps=${framesPerSecond}:start_time=0,scale=1:1,format=gray`]
  const lumas = [...decoded(file, ...how, '-f', 'rawvideo')]
  return beginnings(
    lumas.map((luma) => luma > 180),
    framesPerSecond,
  )
}
