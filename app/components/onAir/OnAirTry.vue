<script setup lang="ts">
import { Gauge } from '@lucide/vue'
import { useOnAirStore } from '~/stores/onAir'

/** Whether this computer draws and encodes the show in time, before anything is sent. */
const onAir = useOnAirStore()
</script>

<template>
  <section class="card p-3" aria-labelledby="try-title">
    <h2 id="try-title" class="text-base">Before going up</h2>
    <p
      class="text-xs"
      role="status"
      :class="onAir.tried && !onAir.tried.isWell ? 'text-ochre' : ''"
    >
      {{
        onAir.isTrying
          ? 'Drawing and encoding all that is planned; nothing is sent …'
          : (onAir.tried?.words ?? 'Ten seconds tell what this computer draws and encodes in time.')
      }}
    </p>
    <button type="button" class="button mt-2" :disabled="onAir.isTrying" @click="onAir.tryOut()">
      <Gauge class="size-4" /> Try ten seconds
    </button>
  </section>
</template>
