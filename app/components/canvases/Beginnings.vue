<script setup lang="ts">
import { type Beginning, begun, usualBeginnings } from '@green-mantle/core/practice'
import { computed } from 'vue'
import { useShowStore } from '~/stores/show'
import { useSources } from './editing/sources'
import PairPicture from './scenes/PairPicture.vue'

/** What a show without sources may begin with; each puts its sources on both canvases. */
const emit = defineEmits<{ empty: [] }>()
const store = useShowStore()
const sources = useSources()

let last = 0
const pictureOf = (beginning: Beginning) => {
  const { sources: made, layers } = begun(store.show, beginning, () => `picture-${(last += 1)}`)
  return {
    beginning,
    layers: { landscape: layers, vertical: layers },
    sources: new Map(made.map((source) => [source.id, source])),
  }
}
const offers = computed(() => usualBeginnings.map(pictureOf))
</script>

<template>
  <section class="card w-full max-w-3xl p-5 shadow-lg" aria-labelledby="beginnings-title">
    <h3 id="beginnings-title" class="text-xl">What is on air?</h3>
    <p class="text-ink-2 mb-4">
      Sources are put on the landscape and the vertical canvas at once, where practice has them.
      Move, change or take away everything afterwards.
    </p>
    <ul class="grid grid-cols-2 gap-3">
      <li v-for="offer in offers" :key="offer.beginning.id">
        <button
          type="button"
          class="border-rule hover:border-moss hover:bg-leaf flex w-full flex-col gap-2 rounded-lg border p-3 text-left"
          @click="sources.begin(offer.beginning)"
        >
          <PairPicture
            class="h-28"
            :layers="offer.layers"
            :sources="offer.sources"
            :canvas-pair="store.show.canvasPair"
            :dressing="store.show.dressing"
          />
          <span class="font-semibold">{{ offer.beginning.label }}</span>
        </button>
      </li>
    </ul>
    <button type="button" class="button mt-4" @click="emit('empty')">Begin empty</button>
  </section>
</template>
