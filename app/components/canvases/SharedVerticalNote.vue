<script setup lang="ts">
import { useSelectionStore } from '~/stores/selection'
import { useScenes } from './editing/scenes'

/** Says whose vertical this is, and ends the sharing in either way. */
const selection = useSelectionStore()
const scenes = useScenes()
</script>

<template>
  <div
    role="note"
    class="card absolute right-1 bottom-1 left-1 z-10 flex flex-col gap-1.5 p-2 text-xs"
  >
    <p>Uses the vertical of <b>{{ selection.verticalScene.name }}</b>. It is altered there.</p>
    <div class="flex flex-wrap gap-1">
      <button
        type="button"
        class="button text-xs"
        @click="selection.chooseScene(selection.verticalScene.id)"
      >
        Go there
      </button>
      <button type="button" class="button text-xs" @click="scenes.endSharing('keep a copy')">
        Keep a copy
      </button>
      <button type="button" class="button text-xs" @click="scenes.endSharing('own again')">
        Own again
      </button>
    </div>
  </div>
</template>
