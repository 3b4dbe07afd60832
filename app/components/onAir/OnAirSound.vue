<script setup lang="ts">
import { mixes, type Mix } from '@green-mantle/core/show'
import { Volume2 } from '@lucide/vue'
import { useOnAirStore } from '~/stores/onAir'

/** Both mixes with their loudness, to be read across a room. */
const onAir = useOnAirStore()
const quietestLufs = -50
const shareOf = (lufs: number): string =>
  `${Math.max(0, Math.min(100, (100 * (lufs - quietestLufs)) / -quietestLufs))}%`
const inWords = (lufs: number): string =>
  Number.isFinite(lufs) ? `${lufs < 0 ? '−' : ''}${Math.abs(lufs).toFixed(1)} LUFS` : 'silent'
const of = (mix: Mix) => onAir.loudness?.[mix]
</script>

<template>
  <section class="card p-3" aria-labelledby="heard-title">
    <h2 id="heard-title" class="text-base">What is heard</h2>
    <template v-if="onAir.isHeard">
      <div v-for="mix in mixes" :key="mix" class="mt-1.5">
        <p class="flex items-baseline justify-between">
          <b>{{ mix }} mix</b>
          <span class="number text-lg">{{ inWords(of(mix)?.shortTerm ?? -Infinity) }}</span>
        </p>
        <div class="bg-sunk relative h-3 overflow-hidden rounded" aria-hidden="true">
          <div
            class="bg-moss h-full"
            :style="{ width: shareOf(of(mix)?.momentary ?? -Infinity) }"
          ></div>
        </div>
        <p class="text-ink-2 text-xs">
          over 3 s; the bar is the last 0.4 s; since it began
          {{ inWords(of(mix)?.integrated ?? -Infinity) }}, by ITU-R BT.1770
        </p>
      </div>
    </template>
    <template v-else>
      <p class="text-ink-2 mb-1.5 text-xs">
        A browser gives sound only once it was asked to by a press. Until then both mixes are
        silent.
      </p>
      <button type="button" class="button" @click="onAir.hear()">
        <Volume2 class="size-4" /> Begin the sound
      </button>
    </template>
  </section>
</template>
