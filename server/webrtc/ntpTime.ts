/** From 1900, when NTP begins to count, to 1970 (RFC 5905, figure 4). */
const secondsBefore1970 = 2_208_988_800
/** The lower half of an NTP time stamp counts fractions of a second. */
export const ntpUnitsPerSecond = 2 ** 32

/** The NTP time stamp of a moment in milliseconds since 1970. */
export function ntpOfMilliseconds(milliseconds: number): bigint {
  const seconds = Math.floor(milliseconds / 1000)
  const fraction = milliseconds / 1000 - seconds
  return (
    (BigInt(seconds + secondsBefore1970) << 32n) + BigInt(Math.floor(fraction * ntpUnitsPerSecond))
  )
}
