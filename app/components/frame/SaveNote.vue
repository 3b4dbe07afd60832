<script setup lang="ts">
import { useNow } from '@vueuse/core'
import { computed } from 'vue'
import { useShowStore } from '~/stores/show'

const store = useShowStore()
const now = useNow({ interval: 5000 })

const words = computed(() => {
  const state = store.saveState
  if (state.name === 'unsaved' || state.name === 'saving') return 'saving …'
  if (state.name !== 'saved') return 'not saved'
  const seconds = Math.max(0, Math.round((now.value.getTime() - state.at.getTime()) / 1000))
  return seconds < 60 ? 'saved just now' : `saved at ${state.at.toTimeString().slice(0, 5)}`
})
const needsAttention = computed(
  () => !['saved', 'unsaved', 'saving'].includes(store.saveState.name),
)
</script>

<template>
  <span :class="needsAttention ? 'text-ochre font-semibold' : ''">{{ words }}</span>
</template>
