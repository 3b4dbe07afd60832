import { type MaybeElement, useResizeObserver } from '@vueuse/core'
import { type Ref, shallowRef } from 'vue'

/**
 * The width and height within an element, in CSS pixels, as the browser tells them when it lays the page
 * out; nothing until then, since to ask would have it lay out a page that is still being built.
 */
export function useElementSize(target: Readonly<Ref<MaybeElement>>) {
  const width = shallowRef(0)
  const height = shallowRef(0)
  useResizeObserver(target, ([entry]) => {
    width.value = entry?.contentRect.width ?? 0
    height.value = entry?.contentRect.height ?? 0
  })
  return { width, height }
}
