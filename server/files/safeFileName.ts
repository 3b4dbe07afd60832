const bytesOf = (text: string): number => Buffer.byteLength(text, 'utf8')

/**
 * What may stand in the name of a file on every system, of so many bytes at most: a whole name has 255,
 * and many scripts take three a character.
 */
export function safeFileName(text: string, mostBytes = 80): string {
  const safe = text
    .replaceAll(/[^\p{L}\p{M}\p{N} ._-]/gu, ' ')
    .replaceAll(/\s+/g, ' ')
    .trim()
  let kept = ''
  for (const character of safe) {
    if (bytesOf(kept + character) > mostBytes) break
    kept += character
  }
  return kept.trim() || 'recording'
}
