<script setup lang="ts">
import { HardDrive } from '@lucide/vue'
import { ref } from 'vue'
import { fetchOwnComputer } from '~/api/computer'
import { wordsFor } from '~/api/problem'

/** Reads what is free where the computer that runs the application keeps recordings. */
const emit = defineEmits<{ read: [gigabytes: number] }>()
const problem = ref('')

async function read(): Promise<void> {
  problem.value = ''
  try {
    const { freeDiskGigabytes } = await fetchOwnComputer()
    if (freeDiskGigabytes === null) problem.value = 'What is free could not be read.'
    else emit('read', freeDiskGigabytes)
  } catch (error) {
    problem.value = wordsFor(error)
  }
}
</script>

<template>
  <button
    type="button"
    class="button"
    aria-label="Read what is free for recordings on this computer"
    title="What is free where this computer keeps recordings"
    @click="read"
  >
    <HardDrive class="size-4" /> Read
  </button>
  <p v-if="problem" class="text-madder" role="alert">{{ problem }}</p>
</template>
