<script setup lang="ts">
import { onBeforeUnmount, onMounted, reactive, useTemplateRef } from 'vue'
import { nextFrame } from '~/composables/inTurn'

/** A box of its own that scrolls, and says by a soft edge and a small sign that there is more. */
defineProps<{ label: string; on?: 'sheet' | 'paper' }>()
const box = useTemplateRef<HTMLElement>('box')
const more = reactive({ below: false, right: false })
/** Less than this is rounding. */
const roundingPixels = 2

function look(): void {
  if (!box.value) return
  const { scrollTop, scrollLeft, clientHeight, clientWidth, scrollHeight, scrollWidth } = box.value
  more.below = scrollTop + clientHeight + roundingPixels < scrollHeight
  more.right = scrollLeft + clientWidth + roundingPixels < scrollWidth
}
let isAsked = false
/** Once the page is laid out: to ask while it is being built would have it laid out once more. */
async function lookSoon(): Promise<void> {
  if (isAsked) return
  isAsked = true
  await nextFrame()
  isAsked = false
  look()
}
const ofSize = new ResizeObserver(look)
const ofContent = new MutationObserver(() => void lookSoon())
onMounted(() => {
  if (!box.value) return
  ofSize.observe(box.value)
  ofContent.observe(box.value, { childList: true, subtree: true, characterData: true })
})
onBeforeUnmount(() => {
  ofSize.disconnect()
  ofContent.disconnect()
})
</script>

<template>
  <div
    class="relative flex min-h-0 min-w-0 flex-col overflow-hidden"
    :style="{ '--under': `var(--${on ?? 'sheet'})` }"
  >
    <div
      ref="box"
      class="min-h-0 overflow-auto"
      tabindex="0"
      role="region"
      :aria-label="label"
      @scroll.passive="look"
    >
      <slot />
    </div>
    <span v-if="more.below" class="more more-below" data-more="below" aria-hidden="true">▾</span>
    <span v-if="more.right" class="more more-right" data-more="right" aria-hidden="true">▸</span>
  </div>
</template>

<style scoped>
.more {
  position: absolute;
  z-index: 20;
  display: flex;
  pointer-events: none;
  color: var(--ink);
  font-size: 0.75rem;
  line-height: 1;
}
.more-below {
  inset: auto 0 0;
  height: 1rem;
  align-items: end;
  justify-content: center;
  background: linear-gradient(to top, var(--under) 35%, transparent);
}
.more-right {
  inset: 0 0 0 auto;
  width: 1.25rem;
  align-items: center;
  justify-content: end;
  background: linear-gradient(to left, var(--under) 35%, transparent);
}
</style>
