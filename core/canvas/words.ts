import type { TextAppearance } from '../show'

export type Font = TextAppearance['font']

/** How wide a text is when set in a font of one pixel, in pixels. */
export type MeasureWords = (text: string, font: Font, weight: number) => number

/** Without a font at hand: about half an em a character, and 0.6 in the one of equal widths. */
export const estimateWidth: MeasureWords = (text, font) =>
  text.length * (font === 'Atkinson Hyperlegible Mono' ? 0.6 : 0.52)

/** Space from one line to the next, in ems. */
export const lineHeight = 1.25

/** Breaks a text at spaces so that no line is wider than that, in pixels; a word that is wider stands alone. Line breaks in the text count. */
export function linesOf(
  text: string,
  {
    font,
    weight,
    sizePixels,
    wrap,
  }: Pick<TextAppearance, 'font' | 'weight' | 'sizePixels' | 'wrap'>,
  widthPixels: number,
  measure: MeasureWords = estimateWidth,
): string[] {
  const paragraphs = text.split('\n')
  if (!wrap) return paragraphs
  return paragraphs.flatMap((paragraph) => {
    const lines: string[] = []
    let line = ''
    for (const word of paragraph.split(/\s+/).filter(Boolean)) {
      const longer = line === '' ? word : `${line} ${word}`
      if (line !== '' && measure(longer, font, weight) * sizePixels > widthPixels) {
        lines.push(line)
        line = word
      } else line = longer
    }
    return [...lines, line]
  })
}
