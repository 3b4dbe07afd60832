/** One report of FFmpeg's `-progress`: how far it was at a moment. */
export interface EncodingProgress {
  frames: number
  /** How far the output is, in seconds of the picture. */
  outSeconds: number
  /** Frames that were left out or doubled to keep the rate. */
  droppedFrames: number
  doubledFrames: number
  /** Of real time, 1 keeps up; null where it is not said. */
  speed: number | null
}

/**
 * Reads what FFmpeg writes with `-progress` piece by piece: `key=value` lines, each report ended by
 * `progress=`. Gives every report that a piece completes.
 */
export function progressReader(): (piece: string) => EncodingProgress[] {
  let rest = ''
  let values: Record<string, string> = {}
  const numberOf = (name: string): number => {
    const value = parseFloat(values[name] ?? '')
    return Number.isFinite(value) ? value : 0
  }
  return (piece) => {
    const lines = (rest + piece).split('\n')
    rest = (lines.pop() ?? '').slice(-1000)
    const reports: EncodingProgress[] = []
    for (const line of lines) {
      const at = line.indexOf('=')
      if (at < 0) continue
      const [key, value] = [line.slice(0, at).trim(), line.slice(at + 1).trim()]
      values[key] = value
      if (key !== 'progress') continue
      const speed = parseFloat(values.speed ?? '')
      reports.push({
        frames: numberOf('frame'),
        outSeconds: numberOf('out_time_us') / 1e6,
        droppedFrames: numberOf('drop_frames'),
        doubledFrames: numberOf('dup_frames'),
        speed: Number.isFinite(speed) ? speed : null,
      })
      values = {}
    }
    return reports
  }
}

/** Frames a second between the first and the last of some reports, each with its moment in seconds; null from fewer than two. */
export function rateBetween(
  reports: readonly { atSeconds: number; frames: number }[],
): number | null {
  const first = reports[0]
  const last = reports.at(-1)
  if (!first || !last || last.atSeconds <= first.atSeconds || last.frames <= first.frames)
    return null
  return (last.frames - first.frames) / (last.atSeconds - first.atSeconds)
}
