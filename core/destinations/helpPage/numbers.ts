/** A number as pages write it, in a pattern without groups. */
export const numberPattern = String.raw`\d{1,3}(?:[,.\u2019' ]\d{3})+(?!\d)|\d+(?:[.,]\d+)?`

/**
 * "4,500", "4 500" and "4'500" are thousands; "4.5" and "4,5" are fractions; "4.500" is a fraction
 * unless `thousands` says that the unit makes nonsense of one.
 */
export function numberOf(text: string, thousands = false): number {
  const compact = text.replaceAll(/[\u2019' ]/g, '')
  // "0,128" is a fraction: no thousands begin with a nought.
  if (/^[1-9]\d{0,2}(,\d{3})+$/.test(compact)) return Number(compact.replaceAll(',', ''))
  if (thousands && /^[1-9]\d{0,2}(\.\d{3})+$/.test(compact))
    return Number(compact.replaceAll('.', ''))
  return Number(compact.replace(',', '.'))
}

const wordNumbers = ['zero', 'one', 'two', 'three', 'four', 'five', 'six'] as const
export const wordNumberPattern = wordNumbers.join('|')
export const wordNumberOf = (word: string): number =>
  wordNumbers.findIndex((name) => name === word.toLowerCase())

/** Between the ends of a range. */
export const rangePattern = String.raw`\s*(?:-|–|—|~|to|and|up to|through|bis|…|\.\.+)\s*`
