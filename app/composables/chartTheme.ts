import { computed } from 'vue'
import { useNight } from './useNight'

const tokens = [
  'paper',
  'sheet',
  'rule',
  'ink',
  'ink-2',
  'moss',
  'leaf',
  'river',
  'foxglove',
  'ochre',
  'madder',
] as const
type Token = (typeof tokens)[number]

/** The colours of the page as a chart needs them, which draws outside the reach of CSS. */
export function useChartTheme() {
  const { isNight } = useNight()
  const colours = computed(() => {
    // Read again whenever day and night change.
    void isNight.value
    const style = getComputedStyle(document.documentElement)
    return Object.fromEntries(
      tokens.map((token) => [token, style.getPropertyValue(`--${token}`).trim()]),
    ) as Record<Token, string>
  })
  const text = { fontFamily: 'Atkinson Hyperlegible Next Variable', fontSize: 12 }
  const number = { fontFamily: 'Atkinson Hyperlegible Mono Variable', fontSize: 12 }
  return { colours, text, number }
}
