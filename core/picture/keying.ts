import type { ChromaKey } from '../show'

/** ITU-R BT.709 luma weights, and the scale of its colour differences. */
const lumaWeights = { red: 0.2126, green: 0.7152, blue: 0.0722 } as const
const blueScale = 1.8556
const redScale = 1.5748

export interface Colour {
  red: number
  green: number
  blue: number
}

/** "#3ab54a" → 0 to 1 for each primary. */
export function colourFromHex(hex: string): Colour {
  const part = (start: number): number => Number.parseInt(hex.slice(start, start + 2), 16) / 255
  return { red: part(1), green: part(3), blue: part(5) }
}

export function hexFromColour({ red, green, blue }: Colour): string {
  const part = (value: number): string =>
    Math.round(Math.max(0, Math.min(1, value)) * 255)
      .toString(16)
      .padStart(2, '0')
  return `#${part(red)}${part(green)}${part(blue)}`
}

/** The colour differences Cb and Cr of ITU-R BT.709, each −0.5 to 0.5; brightness does not enter them. */
export function chroma({ red, green, blue }: Colour): { blue: number; red: number } {
  const luma = lumaWeights.red * red + lumaWeights.green * green + lumaWeights.blue * blue
  return { blue: (blue - luma) / blueScale, red: (red - luma) / redScale }
}

/** The largest distance between two colours in the plane of Cb and Cr is about √2; a slider's 100 % is half of 1. */
const slider = (percent: number): number => (percent / 100) * 0.5

/**
 * How opaque a pixel stays, 0 to 1, by its distance from the backdrop's colour in the plane of Cb and
 * Cr: 0 within the similarity, 1 beyond similarity and smoothness, in a straight line between.
 */
export function keyedAlpha(pixel: Colour, key: ChromaKey): number {
  const [own, backdrop] = [chroma(pixel), chroma(colourFromHex(key.colour))]
  return alphaAt(Math.hypot(own.blue - backdrop.blue, own.red - backdrop.red), key)
}

function alphaAt(distance: number, { similarityPercent, smoothnessPercent }: ChromaKey): number {
  const inner = slider(similarityPercent)
  const over = slider(smoothnessPercent)
  if (distance <= inner) return 0
  return over === 0 ? 1 : Math.min(1, (distance - inner) / over)
}

/** Steps in which Cb and Cr are tabled, as 8-bit video has them. */
const tableSide = 256
/** Whole numbers are faster than fractions; these have 16 bits behind the point. */
const fixed = 65_536

/** What each primary adds to the place of a colour difference in the table. */
function weightsOf(of: 'red' | 'blue'): { red: number; green: number; blue: number } {
  const scale = ((tableSide - 1) / 255 / (of === 'blue' ? blueScale : redScale)) * fixed
  const weight = (primary: 'red' | 'green' | 'blue'): number =>
    Math.round(scale * ((primary === of ? 1 : 0) - lumaWeights[primary]))
  return { red: weight('red'), green: weight('green'), blue: weight('blue') }
}

/** Where the backdrop's strongest primary and the two others stand in a pixel of 32 bits. */
function primariesOf({ red, green, blue }: Colour): [own: number, first: number, second: number] {
  if (green >= red && green >= blue) return [8, 0, 16]
  return blue >= red ? [16, 0, 8] : [0, 8, 16]
}

/** Makes the backdrop of a picture transparent, in place: red, green, blue and alpha, 0 to 255, as a canvas holds them. */
export type Keyer = (pixels: Uint8ClampedArray) => void

/**
 * Prepares the keying of pictures by one key; the tables are worked out once for all of them. The
 * backdrop's primary is held down towards the mean of the others by the spill share. Each pixel is
 * read and written as one number, so that a 1920×1080 frame takes milliseconds; the machine is taken
 * to be little-endian, as all that run browsers are.
 */
export function makeKeyer(key: ChromaKey): Keyer {
  const table = alphaTable(key)
  return (pixels) =>
    keyPixels(new Int32Array(pixels.buffer, pixels.byteOffset, pixels.length >> 2), table, key)
}

function keyPixels(whole: Int32Array, table: Uint8Array, key: ChromaKey): void {
  const toBlue = weightsOf('blue')
  const toRed = weightsOf('red')
  const middle = Math.round(((tableSide - 1) / 2 + 0.5) * fixed)
  const spill = Math.round((key.spillPercent / 100) * 256)
  const [own, first, second] = primariesOf(colourFromHex(key.colour))
  for (let at = 0; at < whole.length; at += 1) {
    const pixel = whole[at] as number
    const red = pixel & 255
    const green = (pixel >> 8) & 255
    const blue = (pixel >> 16) & 255
    const column = (middle + toBlue.red * red + toBlue.green * green + toBlue.blue * blue) >> 16
    const row = (middle + toRed.red * red + toRed.green * green + toRed.blue * blue) >> 16
    const keep = table[row * tableSide + column] as number
    if (keep === 0) {
      whole[at] = pixel & 0xffffff
      continue
    }
    let next = pixel
    if (spill > 0) {
      const strong = (pixel >> own) & 255
      const mean = (((pixel >> first) & 255) + ((pixel >> second) & 255)) >> 1
      if (strong > mean) {
        const held = strong - (((strong - mean) * spill) >> 8)
        next = (next & ~(255 << own)) | (held << own)
      }
    }
    if (keep < 255) {
      const alpha = pixel >>> 24
      const kept = alpha === 255 ? keep : Math.round((alpha * keep) / 255)
      next = (next & 0xffffff) | (kept << 24)
    }
    whole[at] = next
  }
}

/** The alpha, 0 to 255, for every pair of Cb (columns) and Cr (rows). */
function alphaTable(key: ChromaKey): Uint8Array {
  const backdrop = chroma(colourFromHex(key.colour))
  const table = new Uint8Array(tableSide * tableSide)
  for (let row = 0; row < tableSide; row += 1)
    for (let column = 0; column < tableSide; column += 1) {
      const blue = column / (tableSide - 1) - 0.5
      const red = row / (tableSide - 1) - 0.5
      // Not Math.hypot, whose care about overflow costs many times as much.
      const distance = Math.sqrt((blue - backdrop.blue) ** 2 + (red - backdrop.red) ** 2)
      table[row * tableSide + column] = Math.round(255 * alphaAt(distance, key))
    }
  return table
}
