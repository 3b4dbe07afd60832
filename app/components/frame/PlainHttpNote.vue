<script setup lang="ts">
import { useLocalStorage } from '@vueuse/core'
import { computed } from 'vue'

/** What a browser takes away from a page of another computer that comes without TLS. */
const isKnown = useLocalStorage('green-mantle.plain-http-is-known', false)
const isShown = computed(() => !globalThis.isSecureContext && !isKnown.value)
</script>

<template>
  <div
    v-if="isShown"
    role="note"
    class="bg-sunk border-rule flex items-center gap-3 border-b px-4 py-1.5 text-sm"
  >
    <p class="grow">
      This page came over plain HTTP from another computer. Browsers give such a page no camera,
      microphone, screen, encoder or clipboard; all else works. HTTPS, by a proxy in front of the
      server, brings them.
    </p>
    <button type="button" class="button shrink-0" @click="isKnown = true">Understood</button>
  </div>
</template>
