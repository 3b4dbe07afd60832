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
  const distance = Math.hypot(own.blue - backdrop.blue, own.red - backdrop.red)
  const inner = slider(key.similarityPercent)
  const over = slider(key.smoothnessPercent)
  if (distance <= inner) return 0
  return over === 0 ? 1 : Math.min(1, (distance - inner) / over)
}

/** Steps in which Cb and Cr are tabled; finer than 8-bit video distinguishes. */
const tableSide = 256

/**
 * Keys a picture in place: `pixels` are red, green, blue and alpha, 0 to 255, as a canvas holds them.
 * The backdrop's primary is held down to the mean of the others by the spill share. Alphas come from
 * a table over Cb and Cr, so that a 1920×1080 frame takes milliseconds.
 */
export function keyPicture(pixels: Uint8ClampedArray, key: ChromaKey): void {
  const table = alphaTable(key)
  const backdrop = colourFromHex(key.colour)
  const spill = key.spillPercent / 100
  const isGreen = backdrop.green >= backdrop.red && backdrop.green >= backdrop.blue
  const isBlue = !isGreen && backdrop.blue >= backdrop.red
  const primary = isGreen ? 1 : isBlue ? 2 : 0
  const others = primary === 0 ? [1, 2] : primary === 1 ? [0, 2] : [0, 1]
  const [first = 0, second = 0] = others
  const toBlue = (tableSide - 1) / (255 * blueScale)
  const toRed = (tableSide - 1) / (255 * redScale)
  const middle = (tableSide - 1) / 2
  for (let at = 0; at < pixels.length; at += 4) {
    const red = pixels[at] as number
    const green = pixels[at + 1] as number
    const blue = pixels[at + 2] as number
    const luma = lumaWeights.red * red + lumaWeights.green * green + lumaWeights.blue * blue
    const column = (middle + (blue - luma) * toBlue + 0.5) | 0
    const row = (middle + (red - luma) * toRed + 0.5) | 0
    const alpha = table[row * tableSide + column] as number
    if (alpha < 255) pixels[at + 3] = ((pixels[at + 3] as number) * alpha) / 255
    if (spill === 0 || alpha === 0) continue
    const own = pixels[at + primary] as number
    const mean = ((pixels[at + first] as number) + (pixels[at + second] as number)) / 2
    if (own > mean) pixels[at + primary] = own - (own - mean) * spill
  }
}

/** The alpha, 0 to 255, for every pair of Cb (columns) and Cr (rows). */
function alphaTable(key: ChromaKey): Uint8Array {
  const backdrop = chroma(colourFromHex(key.colour))
  const inner = slider(key.similarityPercent)
  const over = slider(key.smoothnessPercent)
  const table = new Uint8Array(tableSide * tableSide)
  for (let row = 0; row < tableSide; row += 1)
    for (let column = 0; column < tableSide; column += 1) {
      const blue = column / (tableSide - 1) - 0.5
      const red = row / (tableSide - 1) - 0.5
      const distance = Math.hypot(blue - backdrop.blue, red - backdrop.red)
      const alpha = distance <= inner ? 0 : over === 0 ? 1 : Math.min(1, (distance - inner) / over)
      table[row * tableSide + column] = Math.round(alpha * 255)
    }
  return table
}
