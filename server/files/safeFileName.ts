/** What may stand in the name of a file on every system. */
export const safeFileName = (text: string): string =>
  text
    .replaceAll(/[^\p{L}\p{N} ._-]/gu, ' ')
    .replaceAll(/\s+/g, ' ')
    .trim()
    .slice(0, 80) || 'recording'
