<script setup lang="ts">
import { mbpsInWords } from '@green-mantle/core/words'
import { computed } from 'vue'
import { useSenderStore } from '~/stores/sender'
import { useShowStore } from '~/stores/show'
import { RouterLink } from 'vue-router'

/** What each send does, as slabs as wide as what they take. */
const store = useShowStore()
const sender = useSenderStore()
const sends = computed(() => sender.state?.sends ?? [])
const total = computed(() => sends.value.reduce((sum, { kbps }) => sum + kbps, 0))
const standby = computed(() => (sender.state?.canvases ?? []).filter(({ isStandby }) => isStandby))
</script>

<template>
  <footer class="border-rule flex items-center gap-4 border-t px-4 py-2">
    <p class="shrink-0">
      <span class="text-ink-2 block text-xs">sent now</span>
      <span class="number text-lg">{{ mbpsInWords(total) }}</span>
    </p>
    <ul v-if="sends.length > 0" class="flex min-w-0 grow gap-0.5" aria-label="Sends">
      <li
        v-for="send in sends"
        :key="send.key"
        class="min-w-0 overflow-hidden px-2 py-0.5"
        :style="{
          flexGrow: Math.max(1, send.plannedKbps),
          flexBasis: 0,
          color: 'var(--on-slab)',
          background:
            send.stage === 'away' || send.stage === 'given up'
              ? 'var(--slab-madder)'
              : send.canvas === 'landscape'
                ? 'var(--slab-river)'
                : 'var(--slab-foxglove)',
        }"
      >
        <b class="block truncate">{{ send.name }}</b>
        <span class="number block truncate text-xs"
          >{{ mbpsInWords(send.kbps) }} of {{ mbpsInWords(send.plannedKbps) }} · {{ send.stage
          }}{{ send.share < 1 ? ` · lowered to ${Math.round(100 * send.share)} %` : ''
          }}{{ send.lostFrames > 0 ? ` · ${send.lostFrames} lost` : '' }}</span
        >
      </li>
    </ul>
    <p v-else class="text-ink-2 grow">
      Nothing is sent. Encoders are started, and sends begun, on
      <RouterLink class="link" :to="`/shows/${store.id}/run-sheet`">Run sheet</RouterLink>: choose
      the on-air window as where a canvas comes from.
    </p>
    <p v-if="standby.length > 0" role="alert" class="text-madder text-xl">
      The standby scene is on air
    </p>
  </footer>
</template>
