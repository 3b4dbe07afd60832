import type { Size } from '../show'

const whole = new Intl.NumberFormat('en-GB', { maximumFractionDigits: 0 })
const oneDecimal = new Intl.NumberFormat('en-GB', {
  minimumFractionDigits: 1,
  maximumFractionDigits: 1,
})

/** 5300 → "5,300". */
export const wholeNumber = (value: number): string => whole.format(value)

/** 5300 → "5,300 kb/s". */
export const kbpsInWords = (kbps: number): string => `${whole.format(kbps)} kb/s`

/** kb/s as Mb/s, and back; both decimal. */
export const mbpsFromKbps = (kbps: number): number => kbps / 1000
export const kbpsFromMbps = (mbps: number): number => mbps * 1000

/** Bytes sent in one second as kb/s. */
export const kbpsFromBytesPerSecond = (bytesPerSecond: number): number =>
  (bytesPerSecond * 8) / 1000

/** 12600 → "12.6": Mb/s without the unit, for columns that name it. */
export const mbpsNumber = (kbps: number): string => oneDecimal.format(kbps / 1000)

/** 12600 → "12.6 Mb/s". */
export const mbpsInWords = (kbps: number): string => `${mbpsNumber(kbps)} Mb/s`

/** "1920×1080". */
export const sizeInWords = ({ width, height }: Size): string => `${width}×${height}`

/**
 * A rendition in the trade's shorthand: the shorter side of a 16:9 picture ("1080p60"), the whole
 * size of any other ("1080×1920").
 */
export function renditionInWords(rendition: Size & { framesPerSecond: number }): string {
  const isWide = Math.abs(rendition.width / rendition.height - 16 / 9) < 0.01
  return isWide
    ? `${rendition.height}p${rendition.framesPerSecond}`
    : `${sizeInWords(rendition)} at ${rendition.framesPerSecond}`
}

const smallNumbers = ['No', 'One', 'Two', 'Three', 'Four', 'Five', 'Six', 'Seven', 'Eight', 'Nine']

/** 3, "send" → "Three sends", to begin a sentence; from ten on in digits. */
export function countInWords(count: number, thing: string): string {
  return `${smallNumbers[count] ?? whole.format(count)} ${thing}${count === 1 ? '' : 's'}`
}

/** 1 → "once", 2 → "twice", 5 → "5 times". */
export const timesInWords = (count: number): string =>
  count === 1 ? 'once' : count === 2 ? 'twice' : `${whole.format(count)} times`

/** ["a", "b", "c"] → "a, b and c". */
export function listInWords(items: readonly string[], joint: 'and' | 'or' = 'and'): string {
  if (items.length < 2) return items.join('')
  return `${items.slice(0, -1).join(', ')} ${joint} ${items.at(-1)}`
}

/** 0.565 → "57 %". */
export const shareInWords = (share: number): string => `${whole.format(share * 100)} %`

/** 10 → "90 %": the share of measurements that reach a low percentile. */
export const shareThatReaches = (lowPercentile: number): string =>
  `${whole.format(100 - lowPercentile)} %`

/** 131400 bytes → "131 kB", decimal. */
export const kilobytesInWords = (bytes: number): string => `${whole.format(bytes / 1000)} kB`

/** 12.34 → "12.3 GB", decimal. */
export const gigabytesInWords = (gigabytes: number): string => `${oneDecimal.format(gigabytes)} GB`

export const secondsFromMinutes = (minutes: number): number => minutes * 60

/** 5025 → "1 h 23 min"; under a minute in seconds. */
export function durationInWords(seconds: number): string {
  if (seconds < 60) return `${whole.format(seconds)} s`
  const minutes = Math.floor(seconds / 60)
  return minutes < 60 ? `${minutes} min` : `${Math.floor(minutes / 60)} h ${minutes % 60} min`
}

/** 44100 → "44.1 kHz". */
export const sampleRateInWords = (hertz: number): string => `${hertz / 1000} kHz`

/** −20.4 → "−20 dB", with a proper minus sign. */
export const decibelsInWords = (decibels: number): string =>
  `${whole.format(decibels).replace('-', '−')} dB`

/** 3.42 → "3.4 points", with a proper minus sign. */
export const pointsInWords = (points: number): string =>
  `${oneDecimal.format(points).replace('-', '−')} ${Math.abs(points) === 1 ? 'point' : 'points'}`
