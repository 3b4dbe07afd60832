<script setup lang="ts">
import { layersOnAir, onBoth, type Scene } from '@green-mantle/core/show'
import { computed } from 'vue'
import PairPicture from '~/components/canvases/scenes/PairPicture.vue'
import { useOnAirStore } from '~/stores/onAir'
import { useShowStore } from '~/stores/show'

/** The scenes as pair pictures: the one on air filled, the one prepared dashed. */
const store = useShowStore()
const onAir = useOnAirStore()
const sources = computed(() => new Map(store.show.sources.map((source) => [source.id, source])))
const layersOf = (scene: Scene) => onBoth((canvas) => layersOnAir(store.show, scene, canvas))
const prepared = computed(() => store.show.scenes.find(({ id }) => id === onAir.preparedId))
const how = computed(() => {
  const milliseconds = onAir.fadeMillisecondsTo(onAir.preparedId)
  return milliseconds > 0 ? `fade ${milliseconds} ms, both canvases` : 'cut, both canvases'
})
</script>

<template>
  <section class="flex shrink-0 gap-3" aria-label="Scenes">
    <ol class="flex min-w-0 gap-2 overflow-x-auto p-0.5">
      <li v-for="(scene, index) in store.show.scenes" :key="scene.id">
        <button
          type="button"
          class="flex w-44 flex-col gap-1 rounded-lg border-2 p-1.5 text-left"
          :class="
            scene.id === onAir.sceneId
              ? 'bg-leaf border-moss'
              : scene.id === onAir.preparedId
                ? 'border-ochre border-dashed'
                : 'border-rule'
          "
          :aria-pressed="scene.id === onAir.preparedId"
          :aria-current="scene.id === onAir.sceneId ? 'true' : undefined"
          :aria-label="`Prepare ${scene.name}`"
          @click="onAir.prepare(scene.id)"
          @dblclick="onAir.take(scene.id)"
        >
          <PairPicture
            class="h-14"
            :layers="layersOf(scene)"
            :sources="sources"
            :canvas-pair="store.show.canvasPair"
            :dressing="store.show.dressing"
          />
          <span class="flex items-baseline justify-between gap-2">
            <b class="truncate">{{ scene.name }}</b>
            <kbd v-if="index < 9" class="number text-ink-2 text-xs">{{ index + 1 }}</kbd>
          </span>
          <span class="text-ink-2 text-xs">{{
            scene.id === onAir.sceneId
              ? 'on air'
              : scene.id === onAir.preparedId
                ? 'prepared'
                : '&nbsp;'
          }}</span>
        </button>
      </li>
    </ol>
    <div class="w-36 shrink-0">
      <button
        type="button"
        class="button button-primary w-full whitespace-normal"
        :disabled="!prepared"
        @click="prepared && onAir.take(prepared.id)"
      >
        {{ prepared ? `Take ${prepared.name}` : 'Take' }} <kbd class="text-xs">Space</kbd>
      </button>
      <p class="text-ink-2 mt-1 text-xs">
        {{ prepared ? how : 'Choose a scene to prepare it; a digit cuts at once.' }}
      </p>
    </div>
  </section>
</template>
