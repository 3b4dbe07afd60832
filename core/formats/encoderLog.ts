import { megapixelsPerSecond } from '../media'

/** What an encoder's progress log says of its speed. */
export type EncoderLogResult =
  | {
      ok: true
      width: number
      height: number
      /** Frames a second, the median of the lines after the start. */
      framesPerSecond: number
      megapixelsPerSecond: number
      lines: number
    }
  | { ok: false; message: string }

const largestLogCharacters = 20_000_000
/** What the encoder script writes of each encode of a process before it starts. */
const sizeLineOfScript = /^Video: \w+, \d+x\d+, \d+ fps$/

/** The first lines tell of the start, while buffers fill. */
const linesOfTheStart = 2

const numberIn = (line: string, name: string): number | null => {
  const found = new RegExp(`\\b${name}=\\s*([\\d.]+)`).exec(line)?.[1]
  const value = found === undefined ? NaN : Number(found)
  return Number.isFinite(value) ? value : null
}

/**
 * Reads the progress lines that a general-purpose encoder writes (`frame=… fps=… speed=…`), and the
 * size of its output from the stream lines above them, where `given` does not say it. An encoder
 * that keeps up with a live source tells only that it kept up, so a log that ran at speed 1 is
 * refused.
 */
export function readEncoderLog(
  text: string,
  given: { width: number; height: number } | null = null,
): EncoderLogResult {
  if (text.length > largestLogCharacters)
    return { ok: false, message: 'The log is longer than 20 MB; give its last part.' }
  const lines = text.split(/[\r\n]+/)
  const readings = lines.flatMap((line) => {
    const [frames, rate, speed] = ['frame', 'fps', 'speed'].map((name) => numberIn(line, name))
    return frames && rate && speed ? [{ rate, speed }] : []
  })
  const [first] = readings
  if (!first)
    return { ok: false, message: 'No line has frame=, fps= and speed= with numbers above 0.' }
  if (!given && lines.filter((line) => sizeLineOfScript.test(line)).length > 1)
    return {
      ok: false,
      message:
        'The log is of several encodes at once, whose speed is no single one’s; run one by itself to measure it.',
    }
  const size = given ?? sizeIn(lines)
  if (!size)
    return {
      ok: false,
      message: 'The log does not say the size it ran at; type it beside the log.',
    }
  const settled = readings.length > linesOfTheStart ? readings.slice(linesOfTheStart) : readings
  const speeds = settled.map(({ speed }) => speed).sort((a, b) => a - b)
  const middleSpeed = speeds[Math.floor(speeds.length / 2)] as number
  if (middleSpeed > 0.97 && middleSpeed < 1.03)
    return {
      ok: false,
      message:
        'It ran at speed 1, held back by a live source; run it on a file to measure how fast it can be.',
    }
  const rates = settled.map(({ rate }) => rate).sort((a, b) => a - b)
  const framesPerSecond = rates[Math.floor(rates.length / 2)] as number
  const perFrame = { ...size, framesPerSecond: 30 as const }
  return {
    ok: true,
    ...size,
    framesPerSecond,
    megapixelsPerSecond: (megapixelsPerSecond(perFrame) / 30) * framesPerSecond,
    lines: readings.length,
  }
}

/** The size of the last video stream that is told of: inputs come before outputs. */
function sizeIn(lines: readonly string[]): { width: number; height: number } | null {
  const found = lines
    .filter((line) => /Video:/.test(line))
    .flatMap((line) => {
      const match = /[ ,](\d{2,5})x(\d{2,5})[ ,[]/.exec(`${line} `)
      return match ? [{ width: Number(match[1]), height: Number(match[2]) }] : []
    })
  return found.at(-1) ?? null
}
