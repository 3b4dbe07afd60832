<script setup lang="ts">
import { useNow } from '@vueuse/core'
import { DateTime } from 'luxon'
import { computed } from 'vue'
import { useShowStore } from '~/stores/show'

defineEmits<{ choose: [] }>()

const store = useShowStore()
const now = useNow({ interval: 5000 })

const words = computed(() => {
  const state = store.saveState
  switch (state.name) {
    case 'saved': {
      const seconds = Math.max(0, Math.round((now.value.getTime() - state.at.getTime()) / 1000))
      return seconds < 60
        ? 'saved just now'
        : `saved at ${DateTime.fromJSDate(state.at).toFormat('HH:mm')}`
    }
    case 'unsaved':
    case 'saving':
      return 'saving …'
    case 'waiting':
      return 'not saved yet, kept in this browser; trying again'
    case 'changed elsewhere':
      return 'not saved: changed elsewhere'
    case 'refused':
    default:
      return 'not saved, kept in this browser'
  }
})
const needsAttention = computed(() =>
  ['waiting', 'changed elsewhere', 'refused'].includes(store.saveState.name),
)
const reason = computed(() => ('words' in store.saveState ? store.saveState.words : ''))
</script>

<template>
  <span role="status" :title="reason" :class="needsAttention ? 'text-ochre font-semibold' : ''">
    {{ words
    }}<button
      v-if="store.saveState.name === 'changed elsewhere'"
      type="button"
      class="link ml-1.5"
      @click="$emit('choose')"
    >
      Choose what to keep
    </button>
    <button
      v-else-if="store.saveState.name === 'refused'"
      type="button"
      class="link ml-1.5"
      @click="store.save()"
    >
      Try again
    </button>
  </span>
</template>
