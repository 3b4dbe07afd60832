<script setup lang="ts">
import { Copy } from '@lucide/vue'
import { useToastStore } from '~/stores/toasts'

/** A text to be pasted elsewhere, with the button that copies it. */
const props = defineProps<{ text: string; what: string; of: string }>()
const toasts = useToastStore()

async function copy(): Promise<void> {
  if (!window.isSecureContext) {
    toasts.tell('This browser copies only over HTTPS or on this machine.', { tone: 'fails' })
    return
  }
  await navigator.clipboard.writeText(props.text)
  toasts.tell(`The ${props.what} for ${props.of} is copied.`)
}
</script>

<template>
  <div class="mt-1 flex items-center gap-1.5">
    <code class="bg-sunk min-w-0 flex-1 rounded break-all px-2 py-1">{{ text }}</code>
    <button
      type="button"
      class="button button-quiet"
      :aria-label="`Copy the ${what} for ${of}`"
      @click="copy"
    >
      <Copy class="size-4" />
    </button>
  </div>
</template>
