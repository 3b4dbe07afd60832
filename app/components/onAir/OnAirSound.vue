<script setup lang="ts">
import { mixes, type Mix } from '@green-mantle/core/show'
import { Volume2 } from '@lucide/vue'
import { useOnAirStore } from '~/stores/onAir'

/** Both mixes with their loudness, to be read across a room. */
const onAir = useOnAirStore()
const quietestLufs = -50
const scaleLufs = [-40, -24, -14, 0] as const
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
          <div
            v-if="Number.isFinite(of(mix)?.integrated)"
            class="bg-ochre absolute inset-y-0 w-0.5"
            :style="{ left: shareOf(of(mix)?.integrated ?? -Infinity) }"
          ></div>
        </div>
        <div class="number text-ink-2 relative h-4 text-xs" aria-hidden="true">
          <span
            v-for="lufs in scaleLufs"
            :key="lufs"
            class="absolute"
            :class="lufs === 0 ? 'right-0' : '-translate-x-1/2'"
            :style="lufs === 0 ? {} : { left: shareOf(lufs) }"
            >{{ lufs === 0 ? '0' : `−${-lufs}` }}</span
          >
        </div>
        <p class="sr-only">since it began {{ inWords(of(mix)?.integrated ?? -Infinity) }}</p>
      </div>
      <p class="text-ink-2 mt-1 text-xs">
        The number is of 3 s, the bar of the last 0.4 s, the mark of all since it began; by ITU-R
        BT.1770.
      </p>
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
