import { execFileSync, spawnSync } from 'node:child_process'
import { type Colour, colours } from './colouredShow'

export interface Seen {
  colour: Colour
  from: number
  until: number
  /** Of each of its frames. */
  pixels: readonly (readonly [number, number, number])[]
}
/** Red, green and blue of a limited-range picture by ITU-R BT.709, item 3. */
function rgbOf(luma: number, blueChroma: number, redChroma: number) {
  const [y, b, r] = [(luma - 16) / 219, (blueChroma - 128) / 224, (redChroma - 128) / 224]
  const red = y + 1.5748 * r
  const blue = y + 1.8556 * b
  const green = (y - 0.2126 * red - 0.0722 * blue) / 0.7152
  return [Math.round(255 * red), Math.round(255 * green), Math.round(255 * blue)] as const
}
/** The stretches of one colour that a file shows, by the times of its frames. */
export function seenIn(file: string): Seen[] {
  const bytes = execFileSync('ffmpeg', [
    ...['-v', 'error', '-i', file, '-an', '-vf', 'fps=30,scale=2:2,format=yuv444p'],
    ...['-f', 'rawvideo', '-'],
  ])
  const stretches: (Seen & { pixels: (readonly [number, number, number])[] })[] = []
  for (let frame = 0; frame * 12 < bytes.length; frame += 1) {
    const part = (plane: number): number => bytes[frame * 12 + plane * 4] as number
    const pixel = rgbOf(part(0), part(1), part(2))
    const [red, , blue] = pixel
    const colour = red > blue + 60 ? 'red' : blue > red + 60 ? 'blue' : 'grey'
    const until = (frame + 1) / 30
    const last = stretches.at(-1)
    if (last?.colour === colour) Object.assign(last, { until, pixels: [...last.pixels, pixel] })
    else stretches.push({ colour, from: frame / 30, until, pixels: [pixel] })
  }
  return stretches
}
/** The loudest sample of a file, in dB under full scale. */
export function loudestIn(file: string): number {
  const { stderr } = spawnSync('ffmpeg', [
    ...['-hide_banner', '-i', file, '-vn', '-af', 'volumedetect', '-f', 'null', '-'],
  ])
  return Number(/max_volume: (-?[\d.]+) dB/.exec(stderr.toString())?.[1])
}
/** The scenes that were on air, in their order. Where a computer does not keep up the standby scene comes between. */
export const orderOf = (seen: readonly Seen[]): Colour[] =>
  seen
    .map(({ colour }) => colour)
    .filter((colour) => colour !== 'grey')
    .filter((colour, index, all) => colour !== all[index - 1])
export const longestGrey = (seen: readonly Seen[]): number =>
  Math.max(...seen.map(({ colour, from, until }) => (colour === 'grey' ? until - from : 0)))
/** How far a colour that arrived is from the one that was set, at most, of 255. */
export function offBy({ colour, pixels }: Seen): number {
  const middle = pixels[pixels.length >> 1]!
  const set = [1, 3, 5].map((at) => Number.parseInt(colours[colour].slice(at, at + 2), 16))
  return Math.max(...set.map((value, channel) => Math.abs(value - middle[channel]!)))
}
