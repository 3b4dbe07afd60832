<script setup lang="ts">
import { ref } from 'vue'

/** What a browser takes away from a page of another computer that comes without TLS. */
const key = 'green-mantle.plain-http-is-known'
const isShown = ref(!globalThis.isSecureContext && localStorage.getItem(key) === null)

function understood(): void {
  localStorage.setItem(key, 'yes')
  isShown.value = false
}
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
    <button type="button" class="button shrink-0" @click="understood">Understood</button>
  </div>
</template>
