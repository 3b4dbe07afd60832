/** The part of a file that a request asks for, both ends included, as in "bytes=0-499" (RFC 9110). */
export interface ByteRange {
  start: number
  end: number
  isPart: boolean
}

/** Reads a Range header for a file of so many bytes; null where nothing of it can be given. Several ranges at once are answered with the whole. */
export function byteRange(header: string | undefined, byteCount: number): ByteRange | null {
  const whole = { start: 0, end: byteCount - 1, isPart: false }
  const match = /^bytes=(\d*)-(\d*)$/.exec(header ?? '')
  if (!match || (match[1] === '' && match[2] === '')) return whole
  const isSuffix = match[1] === ''
  const start = isSuffix ? Math.max(0, byteCount - Number(match[2])) : Number(match[1])
  const end =
    isSuffix || match[2] === '' ? byteCount - 1 : Math.min(Number(match[2]), byteCount - 1)
  return start > end || start >= byteCount ? null : { start, end, isPart: true }
}
