<script setup lang="ts">
import { keysInWords } from '~/commands/keys'

defineProps<{ keys: string }>()
</script>

<template>
  <span class="inline-flex items-center gap-1">
    <template v-for="(press, index) in keysInWords(keys)" :key="index">
      <span v-if="index > 0" class="text-ink-2 text-xs">then</span>
      <kbd class="number border-rule bg-sunk rounded border px-1.5 py-0.5 text-xs">{{ press }}</kbd>
    </template>
  </span>
</template>
