/** "0:07:48", without a sign. */
export function clockFace(seconds: number): string {
  const whole = Math.floor(Math.abs(seconds))
  const two = (value: number): string => String(value).padStart(2, '0')
  return `${Math.floor(whole / 3600)}:${two(Math.floor(whole / 60) % 60)}:${two(whole % 60)}`
}

/** The same of a time that may lie before what it is counted from: "−0:05:00". */
export const signedClockFace = (seconds: number): string =>
  `${seconds < 0 ? '−' : ''}${clockFace(seconds)}`
