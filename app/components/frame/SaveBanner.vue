<script setup lang="ts">
import { TriangleAlert } from '@lucide/vue'
import { computed } from 'vue'
import { useShowStore } from '~/stores/show'

/** Says why the show is not saved, what was kept, and what to do. */
const emit = defineEmits<{ choose: [] }>()
const store = useShowStore()

const kept = computed(() =>
  store.isKept
    ? 'Your edit is kept in this browser'
    : 'The browser has no room to keep your edit: leave this tab open',
)
const message = computed(() => {
  const state = store.saveState
  switch (state.name) {
    case 'waiting':
      return {
        words: `${state.words}. Not saved yet; trying again by itself. ${kept.value}.`,
      }
    case 'changed elsewhere':
      return {
        words: `Not saved: the show was changed elsewhere. ${kept.value}.`,
        action: { label: 'Choose what to keep', run: () => emit('choose') },
      }
    case 'refused':
      return {
        words: `${state.words} ${kept.value}.`,
        action: { label: 'Try again', run: () => void store.save() },
      }
    default:
      return store.isNewerElsewhere
        ? {
            words: 'This show was changed elsewhere; what you see here is older. Undo leads back.',
            action: { label: 'Take it in', run: () => store.takeNewer() },
          }
        : undefined
  }
})
</script>

<template>
  <div role="status">
    <div
      v-if="message"
      class="bg-ochre-wash border-rule flex items-center gap-3 border-b px-4 py-1.5"
    >
      <TriangleAlert class="text-ochre size-4 shrink-0" />
      <p class="grow">{{ message.words }}</p>
      <button v-if="message.action" type="button" class="button" @click="message.action.run()">
        {{ message.action.label }}
      </button>
    </div>
  </div>
</template>
