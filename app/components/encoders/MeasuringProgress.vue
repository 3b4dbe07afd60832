<script setup lang="ts">
/** How far measuring at the server is, why it ended early, and what has to be installed first. */
defineProps<{
  what: string
  going: boolean
  report: { doing: string; done: number; of: number } | null
  problem: string
  missing: string | null
}>()
</script>

<template>
  <p v-if="missing" class="text-madder mt-2">{{ missing }}</p>
  <p v-if="problem" class="text-madder mt-2" role="alert">{{ problem }}</p>
  <p v-if="going" class="mt-2" role="status">
    <progress
      class="mr-2 w-56 align-middle"
      :max="report?.of ?? 1"
      :value="report?.done ?? 0"
      :aria-label="what"
    />
    <span class="number">{{ report?.done ?? 0 }} of {{ report?.of ?? '…' }}</span>
    {{ report?.doing ?? 'Beginning' }}
  </p>
</template>
