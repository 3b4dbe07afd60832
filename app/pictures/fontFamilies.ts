import type { TextAppearance } from '@green-mantle/core/show'

/** The names under which the shipped fonts are known to the page. */
export const fontFamilies: Record<TextAppearance['font'], string> = {
  Literata: 'Literata Variable',
  'Atkinson Hyperlegible Next': 'Atkinson Hyperlegible Next Variable',
  'Atkinson Hyperlegible Mono': 'Atkinson Hyperlegible Mono Variable',
}
