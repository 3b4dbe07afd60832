<script setup lang="ts">
import { X } from '@lucide/vue'
import { useToastStore, type Toast } from '~/stores/toasts'

const store = useToastStore()

async function act(toast: Toast): Promise<void> {
  store.dismiss(toast.id)
  await toast.action?.run()
}
</script>

<template>
  <div
    role="status"
    aria-live="polite"
    class="pointer-events-none fixed inset-x-0 bottom-24 z-40 flex flex-col items-center gap-2"
  >
    <div
      v-for="toast in store.toasts"
      :key="toast.id"
      class="card pointer-events-auto flex max-w-2xl items-center gap-3 px-4 py-2 shadow-lg"
      :class="toast.tone === 'fails' ? 'border-madder' : ''"
    >
      <p class="whitespace-pre-line" :class="toast.tone === 'fails' ? 'text-madder' : ''">
        {{ toast.words }}
      </p>
      <button v-if="toast.action" type="button" class="button" @click="act(toast)">
        {{ toast.action.label }}
      </button>
      <button
        type="button"
        class="button button-quiet"
        aria-label="Dismiss"
        @click="store.dismiss(toast.id)"
      >
        <X class="size-4" />
      </button>
    </div>
  </div>
</template>
